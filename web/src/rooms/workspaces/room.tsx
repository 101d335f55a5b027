/** All workspaces: what each is about, and what can be done with a whole one. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { shelf, type Shelved } from "../../api/client";
import { sendAll } from "../../api/work";
import { plural, when } from "../../ui/format";
import { go } from "../../ui/location";
import { Busy, Button, Link, PickFiles, ProblemNote, SearchField } from "../../ui/primitives";
import { beginTour } from "../../ui/tour";
import { Beside } from "./beside";

export const into = (w: Shelved) => go.into(w.id, w.tables.length ? "ask" : "tables");

const COLUMNS = "grid grid-cols-[216px_minmax(0,1fr)_176px] gap-6 px-6 max-[820px]:grid-cols-1 max-[820px]:gap-1";

export function WorkspacesRoom() {
  const all = useQuery({ queryKey: ["workspaces"], queryFn: shelf.all, staleTime: 0 });
  const [sought, setSought] = useState("");
  const [archived, setArchived] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const here = useMemo(() => (all.data ?? []).filter((w) => !w.archived), [all.data]);
  const away = (all.data ?? []).filter((w) => w.archived);
  const shown = [...here, ...(archived ? away : [])].filter((w) => matches(w, sought));
  const current = shown.find((w) => w.id === chosen) ?? shown[0];
  const last = here[0];
  const make = useMake();
  useEffect(() => {
    document.title = "Workspaces · Gumption";
  }, []);
  const step = (by: number) => {
    const place = shown.findIndex((w) => w.id === current?.id);
    const next = shown[Math.min(Math.max(place + by, 0), shown.length - 1)];
    if (next) setChosen(next.id);
  };
  return (
    // What is dropped anywhere on the page begins a workspace of its own.
    <div
      className="flex h-full flex-col"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        make.of([...e.dataTransfer.files]);
      }}
    >
      <header className="room-head flex h-[46px] shrink-0 items-center gap-6 border-b border-rule px-4">
        <span className="font-serif text-[21px] font-semibold">Gumption</span>
        <span className="text-sm text-soft">{all.data && plural(all.data.length, "workspace")}</span>
        <span className="ml-auto text-sm">
          <Link onClick={() => void beginTour()}>Show me around</Link>
        </span>
      </header>
      <main className="relative grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_316px] overflow-clip max-[820px]:block max-[820px]:overflow-y-auto">
        <section className="flex min-h-0 flex-col" aria-label="Workspaces">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-6 pt-4">
            <h1 className="font-serif text-2xl font-medium">Workspaces</h1>
            <SearchField
              label="Find a workspace, table or question"
              value={sought}
              onChange={setSought}
              onKeyDown={(e) => {
                if (e.key === "ArrowDown" || e.key === "ArrowUp") {
                  e.preventDefault();
                  step(e.key === "ArrowDown" ? 1 : -1);
                }
                if (e.key === "Enter" && current) into(current);
                if (e.key === "Escape" && !sought && last) into(last);
              }}
              className="ml-auto w-64"
            />
            {last && <Link onClick={() => into(last)}>Back to {last.title.slice(0, 24)}</Link>}
          </div>
          <p className="px-6 pb-2 text-soft">
            Each keeps the tables, words and questions of one subject, apart from the others, on this machine.
          </p>
          <div className={`${COLUMNS} border-b border-ink py-1 text-xs text-soft max-[820px]:*:hidden`} aria-hidden>
            <span>workspace</span>
            <span>last question, and what was found</span>
            <span>when, last checks</span>
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto">
            {all.isPending && (
              <div className="p-6">
                <Busy>Looking…</Busy>
              </div>
            )}
            {all.isError && (
              <div className="p-6">
                <ProblemNote error={all.error} again={() => void all.refetch()} />
              </div>
            )}
            <ul>
              {shown.map((w) => (
                <Row key={w.id} of={w} current={w === current} onChoose={() => setChosen(w.id)} />
              ))}
            </ul>
            {all.data && shown.length === 0 && (
              <p className="px-6 py-6 text-soft">
                {sought ? `Nothing here is called “${sought}”.` : "There is no workspace yet. Make one below."}
              </p>
            )}
            {away.length > 0 && (
              <p className="px-6 py-4 text-soft">
                {away.length} archived:{" "}
                {away
                  .slice(0, 3)
                  .map((w) => w.title)
                  .join(", ")}
                {away.length > 3 ? " …" : ""}{" "}
                <Link onClick={() => setArchived(!archived)}>{archived ? "Fold them away" : "Show them"}</Link>
              </p>
            )}
          </div>
          <MakeAnother make={make} hasDemo={(all.data ?? []).some((w) => w.demo)} />
        </section>
        <aside className="relative overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="This workspace">
          {current && <Beside key={current.id} of={current} />}
        </aside>
      </main>
    </div>
  );
}

function matches(w: Shelved, sought: string): boolean {
  const words = sought.trim().toLowerCase();
  return [w.title, w.last?.question ?? "", ...w.tables.map(([name]) => name)].some((text) =>
    text.toLowerCase().includes(words),
  );
}

function Row({ of: w, current, onChoose }: { of: Shelved; current: boolean; onChoose: () => void }) {
  return (
    <li
      className={`${COLUMNS} relative border-b border-rule py-3.5 ${current ? "bg-band" : ""} ${w.archived ? "text-soft" : ""}`}
    >
      {current && <span aria-hidden className="absolute inset-y-0 left-0 w-0.5 bg-pen" />}
      <div className="min-w-0">
        <button
          type="button"
          className="block max-w-full truncate text-left font-semibold after:absolute after:inset-0"
          aria-current={current ? "true" : undefined}
          onClick={onChoose}
          onDoubleClick={() => into(w)}
          onKeyDown={(e) => e.key === "Enter" && current && into(w)}
        >
          {w.title}
        </button>
        <p className="text-xs text-soft">
          {w.tables.length ? `${plural(w.tables.length, "table")}, ${plural(w.rows, "row")}` : "new and empty"}
          {w.newer_files > 0 && <span className="ml-1 text-caution">{plural(w.newer_files, "newer file")}</span>}
        </p>
        {w.demo && <p className="text-xs text-soft">the demo</p>}
        {w.archived && <p className="text-xs text-soft">archived</p>}
      </div>
      {w.last ? (
        <>
          <div className="min-w-0">
            <p className="truncate font-serif text-base leading-5">{w.last.question}</p>
            <p className="line-clamp-2 text-soft">{w.last.finding}</p>
          </div>
          <div className="text-xs text-soft">
            <p>{when(w.last.asked_at)}</p>
            <Checks of={w.last} />
          </div>
        </>
      ) : (
        <>
          <p className="text-soft">
            {w.tables.length ? "Nothing was asked yet." : "Next, bring in a file: go on with it, or drop files there."}
          </p>
          <p className="text-xs text-soft">made {when(w.made_at)}</p>
        </>
      )}
    </li>
  );
}

const HELD = { answered: "", asks: "waits for a choice", declined: "not answered", told: "about the data" };

/** How the last answer stands: a dot for each check, and in words. */
function Checks({ of: last }: { of: NonNullable<Shelved["last"]> }) {
  if (last.status !== "answered") return <p className="mt-1">{HELD[last.status]}</p>;
  const dots = [...Array<string>(last.holds).fill("bg-holds"), ...Array<string>(last.cautions).fill("bg-caution")];
  return (
    <>
      <p className="mt-1 flex flex-wrap gap-1" aria-hidden>
        {dots.map((colour, place) => (
          <span key={place} className={`h-2 w-2 rounded-full ${colour}`} />
        ))}
      </p>
      <p className="mt-1">
        {last.holds} hold{last.cautions > 0 && `, ${plural(last.cautions, "caution")}`}
      </p>
    </>
  );
}

type Make = ReturnType<typeof useMake>;

function useMake() {
  const client = useQueryClient();
  const made = useMutation({
    mutationFn: (how: () => Promise<Shelved>) => how(),
    onSuccess: async (w) => {
      await client.invalidateQueries({ queryKey: ["workspaces"] });
      into(w);
    },
  });
  return {
    busy: made.isPending,
    error: made.error,
    one: (how: () => Promise<Shelved>) => made.mutate(how),
    /** A workspace for files that were dropped here, called like the first; a saved one is taken up. */
    of: (files: File[]) => {
      const [first] = files;
      if (!first) return;
      if (files.length === 1 && first.name.endsWith(".gumption.zip")) {
        made.mutate(() => shelf.takeUp(first));
        return;
      }
      const title = first.name
        .replace(/(\.\w{1,8}){1,2}$/, "")
        .replace(/[_-]+/g, " ")
        .trim();
      made.mutate(async () => {
        const w = await shelf.make(title || "New workspace");
        sendAll(files, null, w.id);
        return w;
      });
    },
  };
}

function MakeAnother({ make, hasDemo }: { make: Make; hasDemo: boolean }) {
  const [title, setTitle] = useState("");
  return (
    <form
      className="shrink-0 border-t border-rule bg-desk px-6 py-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (title.trim()) make.one(() => shelf.make(title));
      }}
    >
      <h2 className="text-xs font-semibold text-soft">Make another</h2>
      {make.error && <ProblemNote error={make.error} />}
      <p className="mt-1.5 flex flex-wrap items-center gap-2 text-soft">
        <input
          aria-label="Its name"
          placeholder="Its name, such as: Vets’ rotas 2026"
          maxLength={100}
          value={title}
          onChange={(e) => setTitle(e.target.value)}
          className="w-60 rounded border border-rule bg-paper px-2 py-1 text-ink"
        />
        <Button type="submit" disabled={!title.trim() || make.busy} className="text-ink">
          Make it
        </Button>
        or drop files anywhere on this page, or
        <PickFiles
          label="A saved workspace"
          accept=".zip"
          onPick={([file]) => file && make.one(() => shelf.takeUp(file))}
        >
          bring in a saved workspace
        </PickFiles>
        {!hasDemo && (
          <>
            or <Link onClick={() => make.one(shelf.demo)}>have the demo</Link>
          </>
        )}
        {make.busy && <Busy>Making it…</Busy>}
      </p>
    </form>
  );
}
