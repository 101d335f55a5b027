/** Beside a page: its workings, what changed, its watches, and the ways out of it. */
import { Popover } from "radix-ui";
import { useState } from "react";
import { api, type FolioPage, type PageForm, type Schedule } from "../../api/client";
import { dateWords, dayOf, plural, timeOf, whole } from "../../ui/format";
import { go } from "../../ui/location";
import { Button, Choose, Heading, Link, ProblemNote, TextField } from "../../ui/primitives";
import { usePageChange } from "./use-page";

const FEW = 6;
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

export function Beside({ page }: { page: FolioPage }) {
  const met = page.parts.filter((p) => p.seen?.met);
  const watched = page.parts.filter((p) => p.seen);
  return (
    <>
      <Heading>Workings of this page</Heading>
      <Scheduled page={page} />
      <Workings page={page} />
      <WhatChanged page={page} />
      {watched.length > 0 && (
        <>
          <hr className="my-4 border-rule" />
          <Heading>
            {plural(watched.length, "watch", "watches")}: {whole(met.length)} met
          </Heading>
          <ul className="mt-2 space-y-1.5">
            {watched.map((part) => (
              <li key={part.id} className={part.seen?.met ? "" : "text-soft"}>
                <b className="font-semibold">
                  {part.seen?.met && <span className="mr-2 text-caution">!</span>}
                  {part.seen?.condition}:
                </b>{" "}
                {part.seen?.words}
              </li>
            ))}
          </ul>
          <p className="mt-1 text-xs text-soft">
            Met ones stand in the{" "}
            <a
              className="text-pen underline underline-offset-2"
              href={api.feedOfFolio()}
              target="_blank"
              rel="noreferrer"
            >
              feed
            </a>
            , too.
          </p>
        </>
      )}
      <WaysOut page={page} />
      <Links page={page} />
    </>
  );
}

const time = (at: string | null | undefined) => (at ?? "07:00").slice(0, 5);

function scheduleWords(schedule: Schedule | null): string {
  if (!schedule) return "only when you want it";
  if (schedule.every === "data") return "whenever its tables change";
  const day = schedule.every === "week" ? `each ${DAYS[schedule.weekday ?? 0]}` : "each day";
  return `${day} at ${time(schedule.at)}`;
}

type Every = Schedule["every"] | "never";
const EVERY: readonly (readonly [Every, string])[] = [
  ["never", "only when I want it"],
  ["day", "each day"],
  ["week", "each week"],
  ["data", "whenever its tables change"],
];

/** When a page is worked again by itself. */
function Scheduled({ page }: { page: FolioPage }) {
  const [open, setOpen] = useState(false);
  const now = page.schedule;
  const [every, setEvery] = useState<Every>(now?.every ?? "never");
  const [at, setAt] = useState(time(now?.at));
  const [weekday, setWeekday] = useState(now?.weekday ?? 0);
  const change = usePageChange(
    () => api.schedulePage(page.id, every === "never" ? null : { every, at: `${at}:00`, weekday }),
    () => setOpen(false),
  );
  return (
    <p className="mt-1 text-soft">
      {scheduleWords(now)}
      {page.next_at && `, next on ${dayOf(page.next_at)}`};{" "}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="text-pen underline underline-offset-2">change</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={8}
            className="w-64 rounded border border-rule bg-paper p-4 shadow-md"
          >
            <form
              className="space-y-3"
              onSubmit={(e) => {
                e.preventDefault();
                change.mutate(undefined);
              }}
            >
              <Choose label="Worked again" value={every} options={EVERY} onChange={setEvery} />
              {every === "week" && (
                <Choose
                  label="On"
                  value={String(weekday)}
                  options={DAYS.map((day, n) => [String(n), day] as const)}
                  onChange={(n) => setWeekday(Number(n))}
                />
              )}
              {(every === "week" || every === "day") && (
                <TextField label="At" type="time" value={at} required onChange={(e) => setAt(e.target.value)} />
              )}
              {change.isError && <ProblemNote error={change.error} />}
              <Button type="submit" disabled={change.isPending}>
                Set
              </Button>
            </form>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </p>
  );
}

const WHY: Record<PageWorking["cause"], string> = {
  kept: "kept",
  asked: "worked again",
  data: "as its tables changed",
  schedule: "at its time",
  mended: "read anew",
};

type PageWorking = FolioPage["workings"][number];

/** Answers that were kept one after the other on one day are one step of the page. */
export function keptTogether(workings: PageWorking[]): PageWorking[] {
  const found: PageWorking[] = [];
  for (const w of workings) {
    const later = found.at(-1);
    const same = later?.cause === "kept" && w.cause === "kept" && dayOf(later.worked_at) === dayOf(w.worked_at);
    if (later && same) found[found.length - 1] = { ...later, answers: later.answers + w.answers };
    else found.push(w);
  }
  return found;
}

/** The workings along a line; one of them shows the page as it stood then. */
function Workings({ page }: { page: FolioPage }) {
  const [all, setAll] = useState(false);
  const together = keptTogether(page.workings);
  const shown = all ? together : together.slice(0, FEW);
  const current = page.shown ?? page.workings[0]?.id;
  if (page.workings.length === 0) return null;
  return (
    <>
      <ol className="mt-2" data-testid="workings">
        {shown.map((w, n) => (
          <li key={w.id}>
            <button
              type="button"
              aria-current={w.id === current ? "true" : undefined}
              onClick={() => (n === 0 ? go.folio(page.id) : go.folio(page.id, w.id))}
              className={`grid w-full grid-cols-[3.6rem_1rem_minmax(0,1fr)] items-start gap-1 px-1 py-1 text-left ${w.id === current ? "bg-paper" : "hover:bg-band"}`}
            >
              <span className="font-mono text-xs">{dayOf(w.worked_at)}</span>
              <span aria-hidden className="relative self-stretch">
                <span className="absolute inset-y-[-4px] left-1 w-px bg-pen-light" />
                <span
                  className={`absolute top-2 left-0 h-0.5 bg-pen ${w.id === current ? "w-2.5 ring-1 ring-pen" : "w-2"}`}
                />
              </span>
              <span>
                <span className={w.id === current ? "font-semibold" : ""}>
                  {w.cause === "kept" || w.cause === "mended"
                    ? `${plural(w.answers, "answer")} ${WHY[w.cause]}`
                    : `${w.changed || "none"} of ${plural(w.answers, "answer")} changed`}
                </span>
                <span className="block text-xs text-soft">
                  {[
                    `${timeOf(w.worked_at)}${w.cause === "kept" || w.cause === "mended" ? "" : `, ${WHY[w.cause]}`}`,
                    w.met ? `${plural(w.met, "watch", "watches")} met` : "",
                    w.failed ? `${w.failed} could not be worked` : "",
                  ]
                    .filter(Boolean)
                    .join("; ")}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ol>
      {together.length > FEW && !all && (
        <p className="mt-1 text-xs text-soft">
          <Link onClick={() => setAll(true)}>{whole(together.length - FEW)} earlier</Link>
        </p>
      )}
      {together.length > 1 && <p className="mt-1 text-xs text-soft">Choose one to read the page as it stood.</p>}
    </>
  );
}

/** The figures that are others than at the working before, under the question that they are of. */
function WhatChanged({ page }: { page: FolioPage }) {
  const parts = page.parts.filter((part) => part.changed.figures?.length);
  if (parts.length === 0) return null;
  return (
    <>
      <hr className="my-4 border-rule" />
      <Heading>What changed at the last working</Heading>
      <table className="mt-2 w-full text-xs" data-testid="what-changed">
        <thead>
          <tr className="border-b border-ink text-soft">
            <th className="py-1 text-left font-normal">
              <span className="sr-only">What</span>
            </th>
            <th className="py-1 text-right font-normal">before</th>
            <th className="py-1 text-right font-normal">now</th>
          </tr>
        </thead>
        {parts.map((part) => (
          <tbody key={part.id}>
            <tr>
              <th colSpan={3} scope="rowgroup" className="pt-1.5 text-left font-normal text-soft">
                {part.question}
              </th>
            </tr>
            {part.changed.figures?.map((figure) => (
              <tr key={figure.what} className="border-b border-rule">
                <td className="py-1 pr-2">{figure.what}</td>
                <td className="py-1 pl-2 text-right font-mono">{figure.before}</td>
                <td className="py-1 pl-2 text-right font-mono">{figure.now}</td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
    </>
  );
}

const OUT: readonly (readonly [PageForm, string, string])[] = [
  ["xlsx", "Workbook", "a sheet an answer, with its proof"],
  ["pdf", "PDF", "as printed, its proof behind it"],
  ["html", "Web page", "one file, charts answer to hover"],
  ["md", "Markdown", "text and tables"],
  ["ipynb", "Notebook", "works the whole page again"],
  ["py", "Python", "the same as one script"],
  ["sql", "SQL", "a statement an answer"],
  ["json", "Saved page", "to be taken up elsewhere"],
];

function WaysOut({ page }: { page: FolioPage }) {
  if (page.parts.length === 0) return null;
  return (
    <>
      <hr className="my-4 border-rule" />
      <Heading>Ways out</Heading>
      <ul className="mt-2 space-y-1" data-testid="ways-out">
        {OUT.map(([form, name, words]) => (
          <li key={form} className="grid grid-cols-[5.5rem_minmax(0,1fr)]">
            <a
              className="justify-self-start text-pen underline underline-offset-2"
              href={api.fileOfPage(page.id, form, page.shown ?? null)}
              download
            >
              {name}
            </a>
            <span className="text-soft">{words}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Links by which others read the page, or one of its answers. */
function Links({ page }: { page: FolioPage }) {
  const [days, setDays] = useState<"7" | "30" | "90" | "365">("30");
  const [copied, setCopied] = useState("");
  const make = usePageChange(() => api.linkPage(page.id, Number(days), null));
  const withdraw = usePageChange((token: string) => api.withdrawLink(page.id, token));
  const error = make.error ?? withdraw.error;
  const addressOf = (token: string) => `${window.location.origin}/s/${token}`;
  if (page.parts.length === 0) return null;
  return (
    <>
      <hr className="my-4 border-rule" />
      <Heading>Links, read only</Heading>
      <ul className="mt-2 space-y-1.5" data-testid="links">
        {page.links.map((link) => (
          <li key={link.token}>
            {link.part ? page.parts.find((p) => p.id === link.part)?.question : "the whole page"}{" "}
            <span className="text-soft">
              ends on <b className="font-semibold text-ink">{dateWords(link.ends_at)}</b>
            </span>
            <span className="flex gap-3 text-xs">
              <a
                className="text-pen underline underline-offset-2"
                href={addressOf(link.token)}
                target="_blank"
                rel="noreferrer"
              >
                open
              </a>
              <Link
                onClick={() =>
                  void navigator.clipboard.writeText(addressOf(link.token)).then(() => setCopied(link.token))
                }
              >
                {copied === link.token ? "copied" : "copy"}
              </Link>
              <Link onClick={() => withdraw.mutate(link.token)}>withdraw</Link>
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex items-baseline gap-2">
        <Button disabled={make.isPending} onClick={() => make.mutate(undefined)}>
          Make a link
        </Button>
        <label className="text-soft">
          for{" "}
          <select
            value={days}
            onChange={(e) => setDays(e.target.value as typeof days)}
            className="rounded border border-rule bg-paper px-1 py-0.5 text-ink"
          >
            <option value="7">7 days</option>
            <option value="30">30 days</option>
            <option value="90">90 days</option>
            <option value="365">a year</option>
          </select>
        </label>
      </p>
      {error && <ProblemNote error={error} />}
    </>
  );
}
