import { QueryClient, QueryClientProvider, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useEffect, useState } from "react";
import { api, shelf, type Workspace } from "./api/client";
import { onEnded } from "./api/work";
import { Report } from "./rooms/ask/report";
import { AskRoom } from "./rooms/ask/room";
import { FolioRoom } from "./rooms/folio/room";
import { GlossaryRoom } from "./rooms/glossary/room";
import { TablesRoom } from "./rooms/tables/room";
import { WorkspacesRoom } from "./rooms/workspaces/room";
import { dateWords, plural } from "./ui/format";
import { useKeys } from "./ui/keys";
import { setLook, useLook, type Look } from "./ui/look";
import { DAYS, NUMBERS, setStyle, styleNow, type Style } from "./ui/style";
import { go, placeOf, usePlace, type InWorkspace } from "./ui/location";
import { Busy, Button, Link, ProblemNote } from "./ui/primitives";
import { Shortcuts } from "./ui/shortcuts";
import { Tour } from "./ui/tour";

const queries = () =>
  new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 60_000 } } });

/* Milliseconds until it is asked again whether the questions worth asking are there. */
const STILL_PREPARING = 1500;

/** What is known of all workspaces; what is known of one is kept apart. */
const ofAll = queries();

export function App() {
  const place = usePlace();
  return (
    <QueryClientProvider client={ofAll}>
      {place.room === "workspaces" ? (
        <WorkspacesRoom />
      ) : place.room === "start" ? (
        <Start />
      ) : (
        <OpenWorkspace key={place.workspace} place={place} />
      )}
    </QueryClientProvider>
  );
}

/** The workspace that was opened last comes up by itself. */
function Start() {
  const all = useQuery({ queryKey: ["workspaces"], queryFn: shelf.all, staleTime: 0 });
  useEffect(() => {
    if (!all.data) return;
    const last = all.data.find((w) => !w.archived);
    if (last) go.into(last.id, last.tables.length ? "ask" : "tables", true);
    else go.workspaces();
  }, [all.data]);
  return (
    <Pad>
      {all.isError ? (
        <ProblemNote error={all.error} again={() => void all.refetch()} />
      ) : (
        <Busy>Opening the workspace…</Busy>
      )}
    </Pad>
  );
}

function OpenWorkspace({ place }: { place: InWorkspace | { room: "open"; workspace: number } }) {
  const [client] = useState(queries);
  useEffect(() => () => client.clear(), [client]);
  return (
    <QueryClientProvider client={client}>
      <Rooms place={place} />
    </QueryClientProvider>
  );
}

function Rooms({ place }: { place: InWorkspace | { room: "open"; workspace: number } }) {
  const workspace = useQuery({
    queryKey: ["workspace"],
    queryFn: api.workspace,
    refetchInterval: (q) => q.state.data?.preparing && STILL_PREPARING,
  });
  const title = workspace.data?.title;
  const [keys, setKeys] = useState(false);
  useRefreshed(place.workspace);
  useKeys({
    "/": () => {
      if (place.room !== "ask") go.ask();
      // The room has to be there before its field is.
      setTimeout(() => document.getElementById("question")?.focus());
    },
    "?": () => setKeys(true),
  });
  useEffect(() => void api.opened().catch(() => undefined), []);
  useEffect(() => {
    document.title = title ? `${title} · Gumption` : "Gumption";
  }, [title]);
  useEffect(() => {
    if (place.room === "open" && workspace.data)
      go.into(place.workspace, workspace.data.tables.length ? "ask" : "tables", true);
  }, [place, workspace.data]);
  return (
    <div className="flex h-full flex-col">
      <header className="room-head flex h-[46px] shrink-0 items-center gap-6 border-b border-rule px-4">
        <span className="font-serif text-[21px] font-semibold">Gumption</span>
        {workspace.data && (
          <span className="min-w-0 truncate text-sm">
            <button
              type="button"
              onClick={go.workspaces}
              title="All workspaces"
              className="max-w-72 truncate border-b border-dashed border-ink align-bottom font-semibold"
            >
              {workspace.data.title}
            </button>
            <span className="ml-2 text-soft">
              {plural(workspace.data.tables.length, "table")}, {plural(workspace.data.rows, "row")}
            </span>
          </span>
        )}
        <nav aria-label="Rooms" className="ml-8 flex shrink-0 gap-1 text-sm max-[820px]:ml-0">
          <RoomTab name="Tables" current={place.room === "tables"} onClick={go.tables} />
          <RoomTab name="Ask" current={place.room === "ask" || place.room === "report"} onClick={go.ask} />
          <RoomTab name="Folio" current={place.room === "folio"} onClick={() => go.folio()} />
          <RoomTab name="Glossary" current={place.room === "glossary"} onClick={() => go.glossary()} />
        </nav>
        <span className="ml-auto flex shrink-0 gap-5">
          {workspace.data && <AsOf workspace={workspace.data} />}
          <StyleChoice />
          <LookChoice />
          <button type="button" title="Keys" aria-label="Keys" className="text-soft" onClick={() => setKeys(true)}>
            ?
          </button>
        </span>
        {keys && <Shortcuts onClose={() => setKeys(false)} />}
        <Tour />
      </header>
      {/* Words for screen readers are placed absolutely: kept in here they cannot lengthen the page. */}
      <main className="relative min-h-0 flex-1 overflow-clip">
        {workspace.isPending && (
          <Pad>
            <Busy>Opening the workspace…</Busy>
          </Pad>
        )}
        {workspace.isError && (
          <Pad>
            <ProblemNote error={workspace.error} again={() => void workspace.refetch()} />
            <p className="mt-3">
              <Link onClick={go.workspaces}>All workspaces</Link>
            </p>
          </Pad>
        )}
        {workspace.data && place.room === "tables" && <TablesRoom workspace={workspace.data} chosen={place.table} />}
        {workspace.data && place.room === "glossary" && (
          <GlossaryRoom workspace={workspace.data} word={place.word} text={place.text} />
        )}
        {workspace.data && place.room === "folio" && (
          <FolioRoom workspace={workspace.data} page={place.page} working={place.working} />
        )}
        {workspace.data && place.room === "report" && (
          <div className="h-full overflow-y-auto">
            <Report key={place.entries.join("+")} entries={place.entries} headings={place.headings} />
          </div>
        )}
        {workspace.data && place.room === "ask" && (
          <AskRoom workspace={workspace.data} entry={place.entry} draft={place.draft} />
        )}
      </main>
    </div>
  );
}

/** What a reading changed is shown anew when it ends, whichever room is open; in Tables its table comes up. */
function useRefreshed(workspace: number): void {
  const client = useQueryClient();
  useEffect(
    () =>
      onEnded(async (job, of) => {
        if (of !== workspace) return;
        // The tables first: rows drawn under the columns of before would say the wrong thing.
        await client.refetchQueries({ queryKey: ["workspace"] });
        await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== "workspace" });
        const name = job.tables[0];
        if (job.status === "done" && name && placeOf(window.location.pathname).room === "tables") go.table(name);
      }),
    [client, workspace],
  );
}

const Pad = ({ children }: { children: React.ReactNode }) => <div className="p-8">{children}</div>;

function RoomTab({ name, current, onClick }: { name: string; current: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-current={current ? "page" : undefined}
      onClick={onClick}
      className={`rounded px-3 py-1.5 ${current ? "bg-ink font-medium text-paper" : "text-soft hover:text-ink"}`}
    >
      {name}
    </button>
  );
}

const NEXT_LOOK: Record<Look, Look> = { system: "night", night: "day", day: "system" };
const LOOKS: Record<Look, string> = { system: "as the system", night: "by night", day: "by day" };

/** By day, by night, or as the system has it. */
function LookChoice() {
  const look = useLook();
  return (
    <button
      type="button"
      className="text-soft"
      title={`The page is shown ${LOOKS[look]}; press for ${LOOKS[NEXT_LOOK[look]]}`}
      aria-label={`Look: ${LOOKS[look]}`}
      onClick={() => setLook(NEXT_LOOK[look])}
    >
      {look === "system" ? "◐" : look === "night" ? "☾" : "☀"}
    </button>
  );
}

/** How numbers and days are written, for this person in this browser; what is on the page is written anew. */
function StyleChoice() {
  const client = useQueryClient();
  const [style, choose] = useState(styleNow());
  const change = (changed: Partial<Style>) => {
    const next = { ...style, ...changed };
    setStyle(next);
    choose(next);
    void client.invalidateQueries();
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        className="text-soft"
        aria-label={`${NUMBERS[style.numbers]}: how numbers and days are written`}
        title="How numbers and days are written"
      >
        {NUMBERS[style.numbers]}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="w-64 rounded border border-rule bg-paper p-4 shadow-md">
          <Choices
            name="Numbers"
            chosen={style.numbers}
            offered={NUMBERS}
            onChoose={(numbers) => change({ numbers })}
          />
          <Choices name="Days" chosen={style.days} offered={DAYS} onChoose={(days) => change({ days })} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

type ChoicesOf<T extends string> = {
  name: string;
  chosen: T;
  offered: Record<T, string>;
  onChoose: (value: T) => void;
};

function Choices<T extends string>({ name, chosen, offered, onChoose }: ChoicesOf<T>) {
  return (
    <label className="mb-2 block text-soft">
      {name}
      <select
        value={chosen}
        onChange={(e) => onChoose(e.target.value as T)}
        className="mt-1 block w-full rounded border border-rule bg-paper px-2 py-1 text-ink"
      >
        {(Object.keys(offered) as T[]).map((value) => (
          <option key={value} value={value}>
            {offered[value]}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The day that counts as today, which “last month” and the like are counted from. */
function AsOf({ workspace }: { workspace: Workspace }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [day, setDay] = useState(workspace.as_of);
  const change = useMutation({
    mutationFn: api.setAsOf,
    onSuccess: async () => {
      setOpen(false);
      await client.invalidateQueries();
    },
  });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="text-soft">
        Today is taken as{" "}
        <b className="border-b border-dashed border-ink font-semibold text-ink">{dateWords(workspace.as_of)}</b>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="w-64 rounded border border-rule bg-paper p-4 shadow-md">
          <label className="block text-soft">
            “Last month” and the like are counted from
            <input
              type="date"
              value={day}
              onChange={(e) => setDay(e.target.value)}
              className="mt-1 block w-full rounded border border-rule px-2 py-1 text-ink"
            />
          </label>
          <div className="mt-3 flex gap-2">
            <Button disabled={!day || change.isPending} onClick={() => change.mutate(day)}>
              Set
            </Button>
            <Button disabled={change.isPending} onClick={() => change.mutate(null)}>
              Use the real day
            </Button>
          </div>
          {change.isError && <ProblemNote error={change.error} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
