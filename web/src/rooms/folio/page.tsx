/** A page of the folio: what its answers came to, with what is written between them. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type FolioPage, type Part } from "../../api/client";
import { dayOf } from "../../ui/format";
import { useKeys } from "../../ui/keys";
import { go } from "../../ui/location";
import { Button, Key, Link, ProblemNote } from "../../ui/primitives";
import { useRun } from "../../ui/run";
import { AnswerPart } from "./answer-part";
import { toPart } from "./parts-list";
import { NewPart, WrittenPart } from "./text-part";
import { usePageChange } from "./use-page";

/** The parts by the rows that they stand in: an answer beside the one before it shares its row. */
export function rowsBeside(parts: Part[]): Part[][] {
  const rows: Part[][] = [];
  for (const part of parts) {
    const row = rows.at(-1);
    if (part.beside && row?.length === 1 && row[0]?.kind === "answer" && part.kind === "answer") row.push(part);
    else rows.push([part]);
  }
  return rows;
}

type Work = { parts: number[] | null; run: string };

export function PageView({ page }: { page: FolioPage }) {
  const earlier = page.shown != null ? page.workings.find((w) => w.id === page.shown) : undefined;
  const fixed = earlier !== undefined;
  const work = usePageChange(({ parts, run }: Work) => api.workPage(page.id, parts, run));
  const told = useRun(work.isPending ? work.variables.run : undefined);
  const again = (parts: number[] | null) => {
    if (!work.isPending) work.mutate({ parts, run: crypto.randomUUID() });
  };
  useKeys(fixed ? {} : { w: () => again(null), W: () => again(null) });
  return (
    <article aria-label={page.title} className="mx-auto max-w-4xl">
      <PageHead page={page} fixed={fixed}>
        {!fixed && (
          <Button disabled={work.isPending || page.answers === 0} onClick={() => again(null)}>
            {work.isPending ? told || "Working…" : "Work again"} <Key>W</Key>
          </Button>
        )}
      </PageHead>
      <p className="mt-1 text-soft" role="status">
        {page.told}
        {page.older_than.length > 0 && (
          <span className="text-caution"> Since then {listed(page.older_than)} changed; work it again.</span>
        )}
      </p>
      {page.answers > 1 && <InShort page={page} />}
      {earlier && (
        <p className="mt-2 border-l-2 border-pen py-1 pl-3" data-testid="earlier">
          As it stood on {dayOf(earlier.worked_at)}. <Link onClick={() => go.folio(page.id)}>As it stands now</Link>
        </p>
      )}
      {work.isError && <ProblemNote error={work.error} />}
      {rowsBeside(page.parts).map((row) => (
        <div key={row[0]?.id} className={row.length === 2 ? "grid grid-cols-2 gap-8 max-[820px]:grid-cols-1" : ""}>
          {row.map((part) =>
            part.kind === "answer" ? (
              <AnswerPart key={part.id} page={page} part={part} fixed={fixed} onWork={() => again([part.id])} />
            ) : (
              <WrittenPart key={part.id} page={page} part={part} fixed={fixed} />
            ),
          )}
        </div>
      ))}
      {!fixed && <NewPart page={page} />}
    </article>
  );
}

/** The page in about a hundred words, each sentence a way to what it is of. */
function InShort({ page }: { page: FolioPage }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="mt-1" data-testid="in-short">
      <Link className="text-xs" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Hide what it says in short" : "What it says in short"}
      </Link>
      {open && (
        <ul className="mt-1 border-l-2 border-rule pl-3 font-serif text-base leading-snug">
          {page.in_short.map((one) => (
            <li key={one.part} className="py-0.5">
              <button type="button" className="text-left hover:text-pen" onClick={() => toPart(one.part)}>
                {one.sentence}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

const listed = (names: string[]) =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;

/** The title, and what can be done with a whole page. */
function PageHead({ page, fixed, children }: { page: FolioPage; fixed: boolean; children: React.ReactNode }) {
  const client = useQueryClient();
  const [title, setTitle] = useState<string | null>(page.title === "New page" && page.answers === 0 ? "" : null);
  const rename = usePageChange((to: string) => api.renamePage(page.id, to));
  const copy = usePageChange(
    () => api.copyPage(page.id, `${page.title}, again`),
    (made) => go.folio(made.id),
  );
  const remove = useMutation({
    mutationFn: () => api.deletePage(page.id),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["folio", "pages"] });
      go.folio();
    },
  });
  const named = () => {
    const to = title?.trim();
    setTitle(null);
    if (to && to !== page.title) rename.mutate(to);
  };
  const error = rename.error ?? copy.error ?? remove.error;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        {title === null ? (
          <h1 className="min-w-0 font-serif text-2xl font-medium">{page.title}</h1>
        ) : (
          <form
            className="min-w-0 flex-1"
            onSubmit={(e) => {
              e.preventDefault();
              named();
            }}
          >
            <input
              aria-label="Title of the page"
              placeholder={page.title}
              value={title}
              maxLength={200}
              // A person who wants to name it goes on typing.
              ref={(field) => field?.focus()}
              onChange={(e) => setTitle(e.target.value)}
              onBlur={named}
              onKeyDown={(e) => e.key === "Escape" && setTitle(null)}
              className="w-full border-b border-rule bg-transparent font-serif text-2xl font-medium outline-none focus:border-pen"
            />
          </form>
        )}
        <span className="ml-auto flex items-baseline gap-3">
          {!fixed && (
            <>
              <Link onClick={() => setTitle(page.title)}>rename</Link>
              <Link onClick={() => copy.mutate(undefined)}>{copy.isPending ? "duplicating…" : "duplicate"}</Link>
              <Link className="text-soft" onClick={() => remove.mutate()}>
                delete
              </Link>
            </>
          )}
          {children}
        </span>
      </div>
      {error && <ProblemNote error={error} />}
    </>
  );
}
