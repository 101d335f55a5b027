/** Changes of a page of the folio: each gives the page as it is then, which takes the place of what is shown. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { FolioPage } from "../../api/client";

export const pageKey = (page: number, working: number | null = null) => ["folio", "page", page, working] as const;

export function usePageChange<In>(change: (given: In) => Promise<FolioPage>, done?: (page: FolioPage) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (page) => {
      client.setQueryData(pageKey(page.id), page);
      void client.invalidateQueries({ queryKey: ["folio", "pages"] });
      done?.(page);
    },
  });
}
