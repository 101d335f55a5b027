/** What stands out in a whole workspace: its tables looked at one after the other, behind what a person does. */
import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Remark, type Workspace } from "../../api/client";
import { Heading, Link, ProgressBar } from "../../ui/primitives";
import { Remarks } from "./remarks";

const FEW = 4;
/* Tables, the first ones, that are looked at unasked. */
const MOST = 30;

export function WorthOfAll({ workspace, onAsk }: { workspace: Workspace; onAsk: (question: string) => void }) {
  const [more, setMore] = useState(false);
  const [stopped, setStopped] = useState(false);
  const [run] = useState(() => crypto.randomUUID());
  const tables = workspace.tables.filter((t) => t.table.rows > 0).slice(0, MOST);
  const [reached, setReached] = useState(0);
  const looks = useQueries({
    queries: tables.map((t, n) => ({
      queryKey: ["worth", t.table.name, t.version],
      queryFn: async () => {
        // One that cannot be looked at holds up no other.
        const found = await api.worth(t.table.name, run).catch((): Remark[] => []);
        setReached((r) => Math.max(r, n + 1));
        return found;
      },
      enabled: n <= reached && !stopped,
    })),
  });
  const done = looks.filter((l) => l.data !== undefined).length;
  const found = looks.flatMap((l) => l.data ?? []).sort((a, b) => b.score - a.score);
  // What was looked at in another room is there already.
  if (looks[reached]?.data !== undefined && reached + 1 < tables.length) setReached(reached + 1);
  if (tables.length === 0 || (done === tables.length && found.length === 0)) return null;
  return (
    <section className="mt-6 border-t border-rule pt-4" aria-label="Worth a look" data-testid="worth-of-all">
      <Heading>Worth a look</Heading>
      {done < tables.length && !stopped && (
        <div className="mt-2 max-w-sm">
          <ProgressBar share={done / tables.length} label="Looking for what stands out" />
          <p className="mt-1 text-xs text-soft" role="status">
            {done} of {tables.length} tables looked at: {tables[done]?.table.name} …{" "}
            <Link
              onClick={() => {
                setStopped(true);
                void api.stop(run);
              }}
            >
              stop
            </Link>
          </p>
        </div>
      )}
      <Remarks remarks={more ? found : found.slice(0, FEW)} onAsk={onAsk} />
      {found.length > FEW && !more && (
        <p className="mt-2">
          <Link onClick={() => setMore(true)}>Show all {found.length}</Link>
        </p>
      )}
    </section>
  );
}
