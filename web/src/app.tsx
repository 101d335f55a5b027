import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useEffect, useState } from "react";
import { api, type Workspace } from "./api/client";
import { onEnded } from "./api/work";
import { AskRoom } from "./rooms/ask/room";
import { TablesRoom } from "./rooms/tables/room";
import { dateWords, plural } from "./ui/format";
import { go, placeOf, useHash } from "./ui/location";
import { Busy, Button, ProblemNote } from "./ui/primitives";

export function App() {
  const place = placeOf(useHash());
  const workspace = useQuery({ queryKey: ["workspace"], queryFn: api.workspace });
  useRefreshed();
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[46px] shrink-0 items-center gap-6 border-b border-rule px-4">
        <span className="font-serif text-[21px] font-semibold">Gumption</span>
        {workspace.data && (
          <span className="text-sm">
            <b className="font-semibold">{workspace.data.title}</b>
            <span className="ml-2 text-soft">
              {plural(workspace.data.tables.length, "table")}, {plural(workspace.data.rows, "row")}
            </span>
          </span>
        )}
        <nav aria-label="Rooms" className="ml-8 flex gap-1 text-sm">
          <RoomTab name="Tables" current={place.room === "tables"} onClick={go.tables} />
          <RoomTab name="Ask" current={place.room === "ask"} onClick={go.ask} />
        </nav>
        <span className="ml-auto">{workspace.data && <AsOf workspace={workspace.data} />}</span>
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
          </Pad>
        )}
        {workspace.data && place.room === "tables" && <TablesRoom workspace={workspace.data} chosen={place.table} />}
        {workspace.data && place.room === "ask" && (
          <AskRoom workspace={workspace.data} entry={place.entry} draft={place.draft} />
        )}
      </main>
    </div>
  );
}

/** What a reading changed is shown anew when it ends, whichever room is open; in Tables its table comes up. */
function useRefreshed(): void {
  const client = useQueryClient();
  useEffect(
    () =>
      onEnded(async (job) => {
        // The tables first: rows drawn under the columns of before would say the wrong thing.
        await client.refetchQueries({ queryKey: ["workspace"] });
        await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== "workspace" });
        const name = job.tables[0];
        if (job.status === "done" && name && placeOf(window.location.hash).room === "tables") go.table(name);
      }),
    [client],
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
