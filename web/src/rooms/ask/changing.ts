/** A change of what questions are read by: once it is made, that and the answers are read anew. */
import { useMutation, useQueryClient } from "@tanstack/react-query";

export function useChange<In, Out>(change: (given: In) => Promise<Out>, key: "lessons" | "terms") {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    // Of a list of words some may be taken where others are not.
    onSettled: () => {
      void client.invalidateQueries({ queryKey: [key] });
      void client.invalidateQueries({ queryKey: ["entry"] });
    },
  });
}
