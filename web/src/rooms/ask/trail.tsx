/** The questions asked, as a tree: a follow-up hangs under what it followed. */
import type { TrailEntry } from "../../api/client";
import { plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Busy, Heading, Link, ProblemNote } from "../../ui/primitives";

type Node = { entry: TrailEntry; depth: number };

/** Entries in reading order: each with its follow-ups below it. */
export function ordered(entries: TrailEntry[]): Node[] {
  const known = new Set(entries.map((entry) => entry.id));
  const children = new Map<number | null, TrailEntry[]>();
  for (const entry of entries) {
    const parent = entry.parent != null && known.has(entry.parent) ? entry.parent : null;
    const beside = children.get(parent);
    if (beside) beside.push(entry);
    else children.set(parent, [entry]);
  }
  const walk = (parent: number | null, depth: number): Node[] =>
    (children.get(parent) ?? []).flatMap((entry) => [{ entry, depth }, ...walk(entry.id, depth + 1)]);
  return walk(null, 0);
}

const DOT: Record<string, string> = { sound: "bg-holds", caution: "bg-caution", none: "border-2 border-pen bg-paper" };

function state(entry: TrailEntry): string {
  return entry.status !== "answered" ? "none" : entry.cautions > 0 ? "caution" : "sound";
}

export function TrailView({
  entries,
  error,
  current,
  again,
  earlier,
}: {
  entries: TrailEntry[] | undefined;
  error: unknown;
  current: number | null;
  again: () => void;
  earlier: (() => void) | null;
}) {
  return (
    <aside className="overflow-y-auto border-r border-rule bg-desk py-4" aria-label="Trail">
      <div className="flex items-baseline justify-between px-3.5">
        <Heading>Trail</Heading>
        {current !== null && (
          <Link className="text-xs" onClick={go.ask}>
            New question
          </Link>
        )}
      </div>
      {error != null && (
        <div className="p-3.5">
          <ProblemNote error={error} again={again} />
        </div>
      )}
      {!entries && error == null && (
        <div className="p-3.5">
          <Busy>Opening…</Busy>
        </div>
      )}
      {entries?.length === 0 && <p className="px-3.5 pt-2 text-soft">Your questions will hang here.</p>}
      {earlier && (
        <p className="px-3.5 pt-2 text-xs">
          <Link onClick={earlier}>Show earlier questions</Link>
        </p>
      )}
      <ul className="mt-2">
        {entries &&
          ordered(entries).map(({ entry, depth }) => (
            <li key={entry.id}>
              <button
                type="button"
                aria-current={entry.id === current ? "true" : undefined}
                onClick={() => go.entry(entry.id)}
                className={`flex w-full gap-2 py-1.5 pr-2 text-left ${entry.id === current ? "bg-paper font-semibold" : "hover:bg-band"}`}
                style={{ paddingLeft: 12 + 14 * Math.min(depth, 5) }}
              >
                <span aria-hidden className={`mt-1.5 h-2 w-2 shrink-0 rounded-full ${DOT[state(entry)]}`} />
                <span className="min-w-0">
                  <span className="block break-words">
                    {entry.question.length > 90 ? `${entry.question.slice(0, 88)}…` : entry.question}
                  </span>
                  <span className="block text-xs font-normal text-soft">
                    {entry.summary}
                    {entry.cautions > 0 && `, ${plural(entry.cautions, "caution")}`}
                  </span>
                </span>
              </button>
            </li>
          ))}
      </ul>
    </aside>
  );
}
