/** A kept answer on a page: what it came to, what is different from the time before, and what can be done with it. */
import { useMutation } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { api, type FolioPage, type Kept, type PageForm, type Part } from "../../api/client";
import { dayOf, plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Link, MENU, MENU_ITEM, ProblemNote } from "../../ui/primitives";
import { Chart } from "../ask/chart";
import { ResultTable } from "../ask/result-table";
import { placeOfPart } from "./parts-list";
import { usePageChange } from "./use-page";
import { WatchForm } from "./watch-form";

/* What the server says where nothing is different. */
const UNCHANGED = "No change.";

export function AnswerPart({
  page,
  part,
  fixed,
  onWork,
}: {
  page: FolioPage;
  part: Part;
  fixed: boolean;
  onWork: () => void;
}) {
  const [watching, setWatching] = useState(false);
  const { answer } = part;
  return (
    <section
      id={placeOfPart(part.id)}
      aria-label={part.question}
      className="mt-6 min-w-0 border-t border-ink pt-2"
      data-testid="kept"
    >
      {part.problem && <Failed page={page} part={part} fixed={fixed} />}
      {answer && (
        <>
          <h3 className="font-serif text-xl leading-snug">{answer.finding}</h3>
          {part.since && (
            <p
              className={`mt-2 border-l-3 pl-2.5 ${part.changed.words === UNCHANGED ? "border-rule text-soft" : "border-pen"}`}
              data-testid="changed"
            >
              <b className="font-semibold text-pen">Since {dayOf(part.since)}</b> {part.changed.words}
            </p>
          )}
          {part.seen && (
            <p className={`mt-1 ${part.seen.met ? "text-caution" : "text-soft"}`} data-testid="seen">
              {part.seen.met ? "! " : ""}Watched for {part.seen.condition}: {part.seen.met ? "met" : "not met"},{" "}
              {part.seen.words}.
            </p>
          )}
          {answer.doubt && <p className="mt-1 text-caution">{answer.doubt}</p>}
          {answer.note && !part.problem && (
            <p className="mt-1 text-caution">
              {answer.note} {part.mend} {part.mend && !fixed && <Mend page={page} part={part} />}
            </p>
          )}
          <What answer={answer} />
        </>
      )}
      <Foot page={page} part={part} fixed={fixed} onWork={onWork} onWatch={() => setWatching(true)} />
      {watching && answer && <WatchForm page={page} part={part} answer={answer} onClose={() => setWatching(false)} />}
    </section>
  );
}

/** The figure, the chart, or the rows. */
function What({ answer }: { answer: Kept }) {
  const [rows, setRows] = useState(false);
  if (answer.is_one_figure) return <p className="mt-2 font-mono text-3xl">{answer.cells[0]?.[0] ?? "missing"}</p>;
  const drawn = answer.chart && answer.fields.filter((f) => f.measures).length === 1;
  return (
    <>
      {answer.chart && <Chart spec={answer.chart} label={answer.finding} />}
      {drawn && !rows ? (
        <p className="mt-1 text-xs">
          <Link onClick={() => setRows(true)}>{plural(answer.total, "row")}</Link>
        </p>
      ) : (
        <ResultTable fields={answer.fields} rows={answer.rows} cells={answer.cells} total={answer.total} />
      )}
    </>
  );
}

/** Why an answer could not be worked, and what would mend it. */
function Failed({ page, part, fixed }: { page: FolioPage; part: Part; fixed: boolean }) {
  return (
    <div role="alert" className="border-l-2 border-stop py-1 pl-3">
      <p className="font-serif text-lg">{part.question}</p>
      <p className="text-stop">{part.problem}</p>
      {part.mend && !fixed && (
        <p className="mt-1">
          {part.mend} <Mend page={page} part={part} />
        </p>
      )}
    </div>
  );
}

function Mend({ page, part }: { page: FolioPage; part: Part }) {
  const mend = usePageChange(() => api.mendPart(page.id, part.id));
  return (
    <>
      <Link onClick={() => mend.mutate(undefined)}>{mend.isPending ? "Mending it…" : "Keep it so from now on"}</Link>
      {mend.isError && <ProblemNote error={mend.error} />}
    </>
  );
}

const FORMS: readonly (readonly [PageForm, string])[] = [
  ["xlsx", "Workbook with its proof (XLSX)"],
  ["pdf", "As printed (PDF)"],
  ["html", "A page of its own (HTML)"],
];

/** The question, how it was proved, and a menu of what can be done. */
function Foot({
  page,
  part,
  fixed,
  onWork,
  onWatch,
}: {
  page: FolioPage;
  part: Part;
  fixed: boolean;
  onWork: () => void;
  onWatch: () => void;
}) {
  const open = useMutation({
    mutationFn: () => api.openPart(page.id, part.id),
    onSuccess: ({ entry }) => go.entry(entry),
  });
  const change = usePageChange((beside: boolean) => api.changePart(page.id, part.id, { beside, unwatch: false }));
  const unwatch = usePageChange(() => api.changePart(page.id, part.id, { unwatch: true }));
  const drop = usePageChange(() => api.dropPart(page.id, part.id));
  const link = usePageChange(() => api.linkPage(page.id, 30, part.id));
  const error = open.error ?? change.error ?? unwatch.error ?? drop.error ?? link.error;
  const cautions = part.answer?.checks.filter((c) => c.weight !== "holds") ?? [];
  const holds = (part.answer?.checks.length ?? 0) - cautions.length;
  return (
    <>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Link className="font-serif text-base" onClick={() => open.mutate()} title="Open it in Ask">
          {part.question}
        </Link>
        <span className="ml-auto flex items-baseline gap-3 text-xs text-soft">
          {cautions.length > 0 && (
            <span className="text-caution" title={cautions.map((c) => c.sentence).join("\n")}>
              ! {cautions.length === 1 ? cautions[0]?.sentence : plural(cautions.length, "caution")}
            </span>
          )}
          {part.answer && <span>✓ {plural(holds, "check holds", "checks hold")}</span>}
          {!fixed && (
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger
                className="text-pen underline underline-offset-2"
                aria-label={`More of ${part.question}`}
              >
                more
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
                  <Item onSelect={onWork}>Work it again</Item>
                  {part.answer && <Item onSelect={onWatch}>{part.watch ? "Change the watch …" : "Watch it …"}</Item>}
                  {part.watch && <Item onSelect={() => unwatch.mutate(undefined)}>Watch it no longer</Item>}
                  <Item onSelect={() => change.mutate(!part.beside)}>
                    {part.beside ? "Put it on a row of its own" : "Put it beside the one before"}
                  </Item>
                  {part.answer &&
                    FORMS.map(([form, words]) => (
                      <DropdownMenu.Item key={form} asChild className={MENU_ITEM}>
                        <a href={api.fileOfPage(page.id, form, page.shown ?? null, part.id)} download>
                          {words}
                        </a>
                      </DropdownMenu.Item>
                    ))}
                  <Item onSelect={() => link.mutate(undefined)}>A link to it, for 30 days</Item>
                  <Item onSelect={() => drop.mutate(undefined)}>Take it off the page</Item>
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          )}
        </span>
      </p>
      {error && <ProblemNote error={error} />}
    </>
  );
}

const Item = ({ onSelect, children }: { onSelect: () => void; children: React.ReactNode }) => (
  <DropdownMenu.Item className={MENU_ITEM} onSelect={onSelect}>
    {children}
  </DropdownMenu.Item>
);
