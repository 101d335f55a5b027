/** The questions asked, as a tree: a follow-up hangs under what it followed. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type TrailEntry } from "../../api/client";
import { Deletion } from "../../ui/deletion";
import { plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Busy, Heading, Link, ProblemNote, SearchField } from "../../ui/primitives";

type Node = { entry: TrailEntry; depth: number };

/** Entries in reading order: each with its follow-ups below it. */
export function ordered(entries: TrailEntry[]): Node[] {
  const children = byParent(entries);
  const walk = (parent: number | null, depth: number): Node[] =>
    (children.get(parent) ?? []).flatMap((entry) => [{ entry, depth }, ...walk(entry.id, depth + 1)]);
  return walk(null, 0);
}

/** The entries under each question that they follow, in their order; under null those that follow none that is here. */
function byParent(entries: TrailEntry[]): Map<number | null, TrailEntry[]> {
  const known = new Set(entries.map((entry) => entry.id));
  const children = new Map<number | null, TrailEntry[]>();
  for (const entry of entries) {
    const parent = entry.parent != null && known.has(entry.parent) ? entry.parent : null;
    const beside = children.get(parent);
    if (beside) beside.push(entry);
    else children.set(parent, [entry]);
  }
  for (const beside of children.values()) beside.sort((a, b) => placed(a) - placed(b));
  return children;
}

/** Where an entry stands among those that follow the same question. */
const placed = (entry: TrailEntry): number => entry.place ?? entry.id;

/** The entries that follow the same question as one, in their order. */
function besides(entries: TrailEntry[], entry: TrailEntry): TrailEntry[] {
  return [...byParent(entries).values()].find((beside) => beside.includes(entry)) ?? [];
}

/** The place before (-1) or behind (1) its neighbour; null where it has none on that side. */
export function moved(entries: TrailEntry[], entry: TrailEntry, by: -1 | 1): number | null {
  const beside = besides(entries, entry);
  const next = beside[beside.indexOf(entry) + by];
  return next ? putBeside(entries, entry, next, by > 0) : null;
}

/** Where an entry comes to stand that is put before or behind another that follows the same question; null where it may not. */
export function putBeside(entries: TrailEntry[], entry: TrailEntry, other: TrailEntry, behind: boolean): number | null {
  const beside = besides(entries, entry);
  if (entry.id === other.id || !beside.includes(other)) return null;
  const rest = beside.filter((e) => e.id !== entry.id);
  const next = rest[rest.indexOf(other) + (behind ? 1 : -1)];
  return next ? (placed(other) + placed(next)) / 2 : placed(other) + (behind ? 1 : -1);
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
  const [sought, setSought] = useState("");
  const [carried, setCarried] = useState<TrailEntry | null>(null);
  const [over, setOver] = useState<{ id: number; behind: boolean } | null>(null);
  const mark = useMark();
  const dropped = () => {
    const other = entries?.find((e) => e.id === over?.id);
    const place = carried && other && over ? putBeside(entries ?? [], carried, other, over.behind) : null;
    if (carried && place !== null) mark.mutate({ entry: carried, to: { place } });
    setCarried(null);
    setOver(null);
  };
  const words = sought.trim().toLowerCase();
  const shown = entries && ordered(entries).filter(({ entry }) => matches(entry, words));
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
      {(entries?.length ?? 0) >= SEARCHED && (
        <p className="px-3.5 pt-2">
          <SearchField label="Find, or * for starred" value={sought} onChange={setSought} className="w-full text-xs" />
        </p>
      )}
      {error != null && (
        <div className="p-3.5">
          <ProblemNote error={error} again={again} />
        </div>
      )}
      {mark.isError && (
        <div className="p-3.5">
          <ProblemNote error={mark.error} />
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
      {words && shown?.length === 0 && <p className="px-3.5 pt-2 text-soft">No question says that.</p>}
      <ul className="mt-2">
        {shown?.map(({ entry, depth }) => (
          <li
            key={entry.id}
            className={`${entry.id === current ? "bg-paper" : ""} ${over?.id === entry.id ? (over.behind ? "shadow-[inset_0_-2px] shadow-pen" : "shadow-[inset_0_2px] shadow-pen") : ""}`}
            draggable={!words}
            onDragStart={(e) => {
              e.dataTransfer.setData("text/plain", entry.question);
              setCarried(entry);
            }}
            onDragOver={(e) => {
              const box = e.currentTarget.getBoundingClientRect();
              const behind = e.clientY > box.top + box.height / 2;
              const may = carried && putBeside(entries ?? [], carried, entry, behind) !== null;
              if (may) e.preventDefault();
              if (over?.id !== (may ? entry.id : undefined) || over?.behind !== behind)
                setOver(may ? { id: entry.id, behind } : null);
            }}
            onDrop={dropped}
            onDragEnd={() => {
              setCarried(null);
              setOver(null);
            }}
          >
            <button
              type="button"
              aria-current={entry.id === current ? "true" : undefined}
              onClick={() => go.entry(entry.id)}
              className={`flex w-full gap-2 py-1.5 pr-2 text-left ${entry.id === current ? "font-semibold" : "hover:bg-band"}`}
              style={{ paddingLeft: 12 + 14 * Math.min(depth, 5) }}
            >
              <span aria-hidden className={`mt-1.5 h-2 w-2 shrink-0 rounded-full ${DOT[state(entry)]}`} />
              <span className="min-w-0">
                <span className="block break-words">
                  {entry.starred && <span title="starred">★ </span>}
                  {short(entry.title || entry.question)}
                </span>
                <span className="block text-xs font-normal text-soft">
                  {entry.summary}
                  {entry.cautions > 0 && `, ${plural(entry.cautions, "caution")}`}
                </span>
              </span>
            </button>
            {entry.id === current && (
              <Acts
                key={entry.id}
                entry={entry}
                inset={12 + 14 * Math.min(depth, 5) + 16}
                followed={followers(entries ?? [], entry.id)}
                up={moved(entries ?? [], entry, -1)}
                down={moved(entries ?? [], entry, 1)}
              />
            )}
          </li>
        ))}
      </ul>
    </aside>
  );
}

/** Questions from which on they can be searched. */
const SEARCHED = 8;

const short = (text: string) => (text.length > 90 ? `${text.slice(0, 88)}…` : text);

function matches(entry: TrailEntry, words: string): boolean {
  if (words.startsWith("*")) return entry.starred && matches(entry, words.slice(1).trim());
  return [entry.question, entry.title, entry.summary].some((text) => text.toLowerCase().includes(words));
}

/** How many questions follow one, and those in their turn. */
export function followers(entries: TrailEntry[], id: number): number {
  return entries.filter((e) => e.parent === id).reduce((sum, e) => sum + 1 + followers(entries, e.id), 0);
}

type Marks = Partial<Pick<TrailEntry, "starred" | "title" | "place">>;

/** Stars, names or places an entry, and shows the trail anew. */
function useMark() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ entry, to }: { entry: TrailEntry; to: Marks }) =>
      api.markEntry(entry.id, { starred: entry.starred, title: entry.title, place: entry.place, ...to }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["trail"] }),
  });
}

/** What can be done with the question that is open. */
function Acts({
  entry,
  inset,
  followed,
  up,
  down,
}: {
  entry: TrailEntry;
  inset: number;
  followed: number;
  up: number | null;
  down: number | null;
}) {
  const [title, setTitle] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const naming = title !== null;
  useEffect(() => field.current?.select(), [naming]);
  const mark = useMark();
  const change = (to: Marks) => mark.mutate({ entry, to }, { onSuccess: () => setTitle(null) });
  return (
    <div className="pb-2 pr-2 text-xs" style={{ paddingLeft: inset }}>
      {title === null ? (
        <p className="flex flex-wrap gap-x-3">
          <Link onClick={() => change({ starred: !entry.starred })}>{entry.starred ? "unstar" : "star"}</Link>
          <Link onClick={() => setTitle(entry.title || entry.question)}>rename</Link>
          {up !== null && (
            <Link onClick={() => change({ place: up })} aria-label="Move up" title="Move up">
              ↑
            </Link>
          )}
          {down !== null && (
            <Link onClick={() => change({ place: down })} aria-label="Move down" title="Move down">
              ↓
            </Link>
          )}
          <Deletion
            trigger="delete"
            title="Delete this question?"
            words={`“${short(entry.question)}”${followed > 0 ? ` and ${plural(followed, "question")} that ${followed === 1 ? "follows" : "follow"} it are` : " is"} deleted for good.`}
            act={() => api.dropEntry(entry.id)}
            done={go.ask}
          />
        </p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            change({ title: title.trim() === entry.question ? "" : title });
          }}
        >
          <input
            ref={field}
            aria-label="Its name in the trail"
            value={title}
            maxLength={200}
            onChange={(e) => setTitle(e.target.value)}
            onKeyDown={(e) => e.key === "Escape" && setTitle(null)}
            className="w-full rounded border border-rule bg-paper px-1.5 py-0.5"
          />
        </form>
      )}
      {mark.isError && <ProblemNote error={mark.error} />}
    </div>
  );
}
