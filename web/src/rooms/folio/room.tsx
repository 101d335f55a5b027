/** The folio: pages of kept answers, worked again when the data change. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type FolioPage, type PageBrief, type Workspace } from "../../api/client";
import { dayOf, plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Busy, DropPlace, Heading, Link, PickFiles, ProblemNote } from "../../ui/primitives";
import { Beside } from "./beside";
import { PageView } from "./page";
import { PartsList } from "./parts-list";
import { pageKey } from "./use-page";

export function FolioRoom({
  workspace,
  page,
  working,
}: {
  workspace: Workspace;
  page: number | null;
  working: number | null;
}) {
  const folio = useQuery({ queryKey: ["folio", "pages"], queryFn: api.folio, staleTime: 0 });
  const pages = folio.data?.pages;
  const chosen = page ?? pages?.[0]?.id ?? null;
  const shown = useQuery({
    queryKey: pageKey(chosen ?? 0, working),
    queryFn: () => api.folioPage(chosen ?? 0, working),
    enabled: chosen !== null,
  });
  return (
    <div className="room">
      <aside className="overflow-y-auto border-r border-rule bg-desk py-4" aria-label="Pages">
        <Pages pages={pages} chosen={chosen} />
        {folio.isError && (
          <div className="p-3.5">
            <ProblemNote error={folio.error} again={() => void folio.refetch()} />
          </div>
        )}
        {shown.data && working === null && <PartsList page={shown.data} />}
        <FromBrief />
        {folio.data && <Deleted deleted={folio.data.deleted} />}
      </aside>
      <section className="overflow-y-auto px-6 pb-12 pt-4" aria-label="Page">
        {shown.isError && <ProblemNote error={shown.error} again={() => void shown.refetch()} />}
        {chosen !== null && shown.isPending && <Busy>Opening the page…</Busy>}
        {shown.data && <PageView key={`${shown.data.id} ${working ?? ""}`} page={shown.data} />}
        {pages?.length === 0 && page === null && <Empty workspace={workspace} />}
      </section>
      <aside className="overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="Workings and ways out">
        {shown.data && <Beside page={shown.data} />}
      </aside>
    </div>
  );
}

/** The pages, how each stands, and what can be done with all of them. */
function Pages({ pages, chosen }: { pages: PageBrief[] | undefined; chosen: number | null }) {
  const client = useQueryClient();
  const opened = (page: FolioPage) => {
    void client.invalidateQueries({ queryKey: ["folio", "pages"] });
    go.folio(page.id);
  };
  const make = useMutation({ mutationFn: () => api.newPage("New page"), onSuccess: opened });
  const take = useMutation({ mutationFn: api.takePage, onSuccess: opened });
  const work = useMutation({
    mutationFn: () => api.workEveryPage(crypto.randomUUID()),
    onSuccess: () => void client.invalidateQueries({ queryKey: ["folio"] }),
  });
  const error = make.error ?? take.error ?? work.error;
  return (
    <>
      <div className="flex items-baseline justify-between px-3.5">
        <Heading>Folio</Heading>
        <Link className="text-xs" onClick={() => make.mutate()}>
          New page
        </Link>
      </div>
      <ul className="mt-2">
        {pages?.map((page) => (
          <li key={page.id}>
            <button
              type="button"
              aria-current={page.id === chosen ? "page" : undefined}
              onClick={() => go.folio(page.id)}
              className={`w-full border-l-2 px-3 py-2 text-left ${page.id === chosen ? "border-pen bg-paper" : "border-transparent hover:bg-band"}`}
            >
              <span className={`block truncate text-sm ${page.id === chosen ? "font-semibold" : ""}`}>
                {page.title}
              </span>
              <Standing page={page} />
            </button>
          </li>
        ))}
      </ul>
      {error && (
        <div className="p-3.5">
          <ProblemNote error={error} />
        </div>
      )}
      {pages && pages.length > 0 && (
        <p className="px-3.5 pt-2 text-xs">
          {work.isPending ? (
            <Busy>Working every page…</Busy>
          ) : (
            <Link onClick={() => work.mutate()}>Work every page again</Link>
          )}
        </p>
      )}
      <p className="px-3.5 pt-1 text-xs">
        <PickFiles label="A page that was saved" accept=".json" onPick={([file]) => file && take.mutate(file)}>
          Take up a saved page
        </PickFiles>
      </p>
    </>
  );
}

/** Whether a page is as its tables are, and what its watches say. */
function Standing({ page }: { page: PageBrief }) {
  const old = page.older_than.length > 0;
  return (
    <span className="block text-xs">
      {page.worked_at ? (
        <span className={`flex items-baseline gap-1.5 ${old ? "text-caution" : "text-soft"}`}>
          <span
            aria-hidden
            className={`size-1.5 shrink-0 rounded-full ${old ? "border-2 border-caution" : "bg-holds"}`}
          />
          {old ? "older than its tables" : "fresh"}, worked {dayOf(page.worked_at)}
        </span>
      ) : (
        <span className="text-soft">nothing on it yet</span>
      )}
      {page.failed > 0 && <span className="block text-stop">{plural(page.failed, "answer")} could not be worked</span>}
      {page.met.length > 0 && (
        <span className="block text-caution">
          ! {page.met.length === 1 ? `watch met: ${page.met[0]?.words}` : `${page.met.length} watches met`}
        </span>
      )}
    </span>
  );
}

/** A list of questions becomes a page of answers. */
function FromBrief() {
  const taken = async (data: DataTransfer) => {
    const [file] = data.files;
    const text = file ? await file.text() : data.getData("text/plain");
    if (text.trim()) go.draft(text.trim().slice(0, 20_000));
  };
  return (
    <DropPlace className="mx-3.5 mt-5 text-xs" onDrop={(dropped) => void taken(dropped)}>
      Drop a <Link onClick={go.ask}>brief</Link> here, or paste it there: a list of questions becomes a page of answers
    </DropPlace>
  );
}

function Deleted({ deleted }: { deleted: { id: number; title: string }[] }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const told = { onSuccess: () => client.invalidateQueries({ queryKey: ["folio", "pages"] }) };
  const restore = useMutation({ mutationFn: api.restorePage, ...told });
  const drop = useMutation({ mutationFn: (page: number) => api.deletePage(page, true), ...told });
  const error = restore.error ?? drop.error;
  if (deleted.length === 0) return null;
  return (
    <div className="px-3.5 pt-4 text-xs text-soft">
      {plural(deleted.length, "page")} deleted,{" "}
      <Link onClick={() => setOpen(!open)}>{open ? "hide" : deleted.length === 1 ? "show it" : "show them"}</Link>
      {open && (
        <ul className="mt-1 space-y-1">
          {deleted.map((page) => (
            <li key={page.id} className="flex flex-wrap items-baseline gap-x-2">
              <span className="min-w-0 truncate text-ink">{page.title}</span>
              <Link onClick={() => restore.mutate(page.id)}>restore</Link>
              <Link onClick={() => drop.mutate(page.id)}>delete for good</Link>
            </li>
          ))}
        </ul>
      )}
      {error && <ProblemNote error={error} />}
    </div>
  );
}

const Empty = ({ workspace }: { workspace: Workspace }) => (
  <>
    <h1 className="font-serif text-2xl">Answers worth keeping</h1>
    <p className="mt-2 max-w-md text-soft">
      Ask a question, then press <b className="font-semibold text-ink">Keep …</b> beside its answer. What is kept stands
      here on pages, is worked again when the tables change, says what is different, and leaves as a workbook, a PDF, a
      web page or a notebook.
    </p>
    <p className="mt-3">
      {workspace.tables.length > 0 ? (
        <Link onClick={go.ask}>Ask something</Link>
      ) : (
        <Link onClick={go.tables}>Bring in a file</Link>
      )}
    </p>
  </>
);
