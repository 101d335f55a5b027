/** How a table joins the others: how well the values meet, what finds no partner, and a person's word on it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Join, type Joins, type Relationship, type TableEntry, type Workspace } from "../../api/client";
import { plural, whole } from "../../ui/format";
import { Button, Choose, Heading, Link, ProblemNote, Window } from "../../ui/primitives";
import { useRecipe } from "./found";
import { withStep } from "./recipe";

type Detail = Joins["joins"][number];

const joinOf = (r: Relationship, decision: Join["decision"]): Join => ({
  table: r.table,
  columns: [r.column, ...(r.also ?? []).map(([here]) => String(here))],
  other: r.other,
  other_columns: [r.other_column, ...(r.also ?? []).map(([, there]) => String(there))],
  decision,
});

export function JoinsOf({ entry, workspace }: { entry: TableEntry; workspace: Workspace }) {
  const client = useQueryClient();
  const { name } = entry.table;
  const joins = useQuery({ queryKey: ["joins", name], queryFn: () => api.joins(name) });
  const [adding, setAdding] = useState(false);
  const decide = useMutation({ mutationFn: api.decideJoin, onSuccess: () => client.invalidateQueries() });
  const found = workspace.relationships.filter((r) => r.table === name || r.other === name);
  const detail = (r: Relationship): Detail | undefined =>
    joins.data?.joins.find((d) => JSON.stringify(d.relationship) === JSON.stringify(r));
  return (
    <>
      <div className="mt-5 flex items-baseline justify-between">
        <Heading>How it joins</Heading>
        {workspace.tables.length > 1 && (
          <Link className="text-xs" onClick={() => setAdding(true)}>
            add a join
          </Link>
        )}
      </div>
      {found.length === 0 && <p className="py-2 text-soft">No other table shares its values.</p>}
      <ul>
        {found.map((r) => (
          <JoinLine
            key={`${r.table}.${r.column}.${r.other}.${r.other_column}`}
            r={r}
            here={name}
            detail={detail(r)}
            workspace={workspace}
            onDecide={(d) => decide.mutate(joinOf(r, d))}
          />
        ))}
        {joins.data?.forbidden.map((j) => (
          <li
            key={`${j.table}.${j.columns.join()}.${j.other}`}
            className="flex gap-2 border-b border-rule py-2 text-soft"
          >
            <span className="min-w-0 flex-1">
              Not used: {j.table}.{j.columns.join(", ")} to {j.other}.{j.other_columns.join(", ")}
            </span>
            <Link className="shrink-0 self-start" onClick={() => decide.mutate({ ...j, decision: "found" })}>
              use again
            </Link>
          </li>
        ))}
      </ul>
      {decide.isError && <ProblemNote error={decide.error} />}
      {adding && <AddJoin entry={entry} workspace={workspace} onClose={() => setAdding(false)} />}
    </>
  );
}

function JoinLine({
  r,
  here,
  detail,
  workspace,
  onDecide,
}: {
  r: Relationship;
  here: string;
  detail: Detail | undefined;
  workspace: Workspace;
  onDecide: (d: Join["decision"]) => void;
}) {
  const [open, setOpen] = useState(false);
  const named = (table: string, column: string) => (table === here ? column : `${table}.${column}`);
  const pairs = [[r.column, r.other_column], ...(r.also ?? [])].map(
    ([a, b]) => [named(r.table, String(a)), named(r.other, String(b))] as const,
  );
  const owner = workspace.tables.find((t) => t.table.name === r.table);
  const near = Object.entries(detail?.near ?? {});
  return (
    <li className="border-b border-rule py-2">
      <div className="flex gap-2">
        <span className="min-w-0 flex-1 break-words">
          {pairs.map(([a, b], i) => (
            <span key={a}>
              <span className="font-mono text-xs">{a}</span>{" "}
              {i === 0 ? (r.one_to_one ? "one to one" : "many to one") : "and"}{" "}
              <span className="font-mono text-xs">{b}</span>{" "}
            </span>
          ))}
          <small className="block text-soft">
            {r.unmatched === 0
              ? "every row finds its partner"
              : `${(100 * r.match_rate).toFixed(1)}% find one; ${whole(r.unmatched)} do not`}
            {r.accepted ? "; accepted by you" : ""}
          </small>
        </span>
        <span className="flex shrink-0 flex-col items-end">
          <Link
            aria-label={`Forbid the join of ${r.table}.${r.column} to ${r.other}`}
            onClick={() => onDecide(r.accepted ? "found" : "forbidden")}
          >
            {r.accepted ? "take back" : "forbid"}
          </Link>
          {r.unmatched > 0 && (
            <Link aria-expanded={open} onClick={() => setOpen(!open)}>
              {open ? "hide" : "show"}
            </Link>
          )}
        </span>
      </div>
      {open && detail && (
        <div className="mt-1 text-xs text-soft">
          Without a partner:{" "}
          {detail.without_partner.map(([v, n]) => (
            <span key={v} className="mr-2 whitespace-nowrap">
              <q className="font-mono">{v}</q> {plural(n, "row")}
            </span>
          ))}
          {near.length > 0 && owner && <Mend owner={owner} column={r.column} near={near} />}
        </div>
      )}
      {!open && near.length > 0 && owner && (
        <div className="mt-1 text-xs text-caution">
          <Mend owner={owner} column={r.column} near={near} />
        </div>
      )}
    </li>
  );
}

/** Values that differ from a partner's only in case, blanks, marks or leading noughts can be written as it is. */
function Mend({ owner, column, near }: { owner: TableEntry; column: string; near: [string, string][] }) {
  const recipe = useRecipe(owner);
  const [from, to] = near[0] ?? ["", ""];
  return (
    <p className="mt-1">
      {plural(near.length, "value nearly has", "values nearly have")} one, such as <q>{from}</q> for <q>{to}</q>.{" "}
      <Link
        onClick={() => recipe.mutate(withStep(owner, { kind: "repair", column, values: Object.fromEntries(near) }))}
      >
        Write {near.length === 1 ? "it" : "them"} alike
      </Link>
      {recipe.isError && <ProblemNote error={recipe.error} />}
    </p>
  );
}

function AddJoin({ entry, workspace, onClose }: { entry: TableEntry; workspace: Workspace; onClose: () => void }) {
  const client = useQueryClient();
  const others = workspace.tables.filter((t) => t !== entry);
  const [other, setOther] = useState(others[0]?.table.name ?? "");
  const [pairs, setPairs] = useState<[string, string][]>([["", ""]]);
  const there = others.find((t) => t.table.name === other);
  const add = useMutation({
    mutationFn: () => {
      const full = pairs.filter(([a, b]) => a && b);
      return api.decideJoin({
        table: entry.table.name,
        columns: full.map(([a]) => a),
        other,
        other_columns: full.map(([, b]) => b),
        decision: "accepted",
      });
    },
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  const set = (place: number, side: 0 | 1, value: string) =>
    setPairs((p) => p.map((pair, i) => (i !== place ? pair : side === 0 ? [value, pair[1]] : [pair[0], value])));
  const names = (t: TableEntry | undefined) =>
    [["", "choose…"], ...(t?.table.columns ?? []).map((c) => [c.name, c.name])] as [string, string][];
  return (
    <Window
      open
      onClose={onClose}
      title={`Join ${entry.table.name} to another table`}
      about="Every row here must find at most one row there. Several pairs of columns must all be equal."
    >
      <Choose
        label="Table there"
        value={other}
        options={others.map((t) => [t.table.name, t.table.name] as const)}
        onChange={setOther}
      />
      {pairs.map(([a, b], i) => (
        <div key={i} className="mt-3 grid grid-cols-2 gap-3">
          <Choose
            label={`Column of ${entry.table.name}`}
            value={a}
            options={names(entry)}
            onChange={(v) => set(i, 0, v)}
          />
          <Choose label={`is equal to, of ${other}`} value={b} options={names(there)} onChange={(v) => set(i, 1, v)} />
        </div>
      ))}
      {pairs.length < 4 && (
        <Link className="mt-2" onClick={() => setPairs([...pairs, ["", ""]])}>
          and another pair
        </Link>
      )}
      {add.isError && <ProblemNote error={add.error} />}
      <div className="mt-4 flex justify-end">
        <Button disabled={!pairs.some(([a, b]) => a && b) || add.isPending} onClick={() => add.mutate()}>
          Use this join
        </Button>
      </div>
    </Window>
  );
}
