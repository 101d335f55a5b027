/** Keep an answer on a page of the folio: with a key on the page that was used last, or on any other. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { api, type Answered, type FolioPage } from "../../api/client";
import { useKeys } from "../../ui/keys";
import { go } from "../../ui/location";
import { Button, Link, MENU, MENU_ITEM, ProblemNote } from "../../ui/primitives";
import { lastPage, setLastPage } from "./last-page";
import { pageKey } from "./use-page";

/* Letters of a question that a new page is called by. */
const MOST_TITLE = 80;

export function KeepOn({ answer, drawn }: { answer: Answered; drawn: string }) {
  const client = useQueryClient();
  const folio = useQuery({ queryKey: ["folio", "pages"], queryFn: api.folio });
  const keep = useMutation({
    mutationFn: async (page: number | null): Promise<FolioPage> => {
      const on = page ?? (await api.newPage(answer.question.slice(0, MOST_TITLE))).id;
      return api.putOnPage(on, { kind: "answer", entry: answer.id, drawn, text: "", beside: false });
    },
    onSuccess: (page) => {
      setLastPage(page.id);
      client.setQueryData(pageKey(page.id), page);
      void client.invalidateQueries({ queryKey: ["folio", "pages"] });
    },
  });
  const pages = folio.data?.pages ?? [];
  const last = pages.find((p) => p.id === lastPage()) ?? pages.at(-1);
  useKeys({ "Alt+K": () => keep.mutate(last?.id ?? null) });
  return (
    <span className="flex flex-wrap items-baseline gap-2" data-testid="keep-on">
      {keep.isSuccess && (
        <span role="status" className="text-xs text-soft">
          Kept on <Link onClick={() => go.folio(keep.data.id)}>{keep.data.title}</Link>
        </span>
      )}
      {keep.isError && <ProblemNote error={keep.error} />}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <Button className="text-xs" title="Keep it on a page of the folio (Alt+K)" disabled={keep.isPending}>
            {keep.isPending ? "Keeping…" : "Keep …"}
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
            <DropdownMenu.Label className="px-2.5 py-1 text-xs text-soft">
              On a page of the folio, to be worked again
            </DropdownMenu.Label>
            {pages.map((page) => (
              <DropdownMenu.Item key={page.id} className={MENU_ITEM} onSelect={() => keep.mutate(page.id)}>
                {page.title}
                {page.id === last?.id && <kbd className="ml-2 font-mono text-[11px] text-soft">Alt+K</kbd>}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => keep.mutate(null)}>
              A new page
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </span>
  );
}
