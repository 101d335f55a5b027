import { useMutation, useQueryClient } from "@tanstack/react-query";
import { AlertDialog } from "radix-ui";
import { api, type Relationship, type TableEntry, type Workspace } from "../../api/client";
import { bytes, dateWords, plural, whole } from "../../ui/format";
import { go } from "../../ui/location";
import { Button, Heading, Link, ProblemNote } from "../../ui/primitives";
import { ColumnStrip } from "./column-strip";
import { FileDrop } from "./file-drop";
import { RowsGrid } from "./rows-grid";

export function TablesRoom({ workspace, chosen }: { workspace: Workspace; chosen: string | null }) {
  const entry = workspace.tables.find((t) => t.table.name === chosen) ?? workspace.tables[0];
  return (
    <div className="grid h-full grid-cols-[216px_minmax(0,1fr)_316px]">
      <aside className="overflow-y-auto border-r border-rule bg-desk py-4" aria-label="Tables">
        <div className="px-3.5"><Heading>Tables</Heading></div>
        <ul className="mt-2">
          {workspace.tables.map((t) => (
            <li key={t.table.name}>
              <button
                type="button"
                aria-current={t === entry ? "true" : undefined}
                onClick={() => go.table(t.table.name)}
                className={`block w-full border-l-2 py-2 pl-3 pr-2 text-left ${t === entry ? "border-pen bg-paper font-semibold" : "border-transparent hover:bg-band"}`}
              >
                <span className="block break-words text-sm">{t.table.name}</span>
                <span className="block text-xs font-normal text-soft">
                  {plural(t.table.rows, "row")}, {plural(t.table.columns.length, "column")}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <FileDrop limit={workspace.upload_limit} />
      </aside>
      {entry ? <TableView entry={entry} key={entry.table.name} /> : <Nothing />}
      {entry && <Beside entry={entry} relationships={workspace.relationships} />}
    </div>
  );
}

const Nothing = () => (
  <section className="p-10">
    <h1 className="font-serif text-2xl">Bring in a file to begin</h1>
    <p className="mt-2 max-w-md text-soft">Drop CSV or XLSX files on the left. Each sheet becomes a table, and what was found in it is shown here before you ask anything.</p>
  </section>
);

function summary({ table, bytes: size, seconds }: TableEntry): string {
  const time = table.columns.find((c) => c.type === "date" || c.type === "timestamp");
  const span = time?.low && time.high ? ` ${time.name.replaceAll("_", " ")} from ${dateWords(time.low)} to ${dateWords(time.high)}.` : "";
  return `${plural(table.rows, "row")} from ${table.source} (${bytes(size)}, read in ${seconds.toFixed(1)} s).${span}`;
}

function TableView({ entry }: { entry: TableEntry }) {
  return (
    <section className="flex min-w-0 flex-col overflow-hidden px-6 pt-4" aria-label={entry.table.name}>
      <div className="flex items-baseline gap-4">
        <h1 className="font-serif text-2xl font-medium">{entry.table.name}</h1>
        <span className="ml-auto"><Remove entry={entry} /></span>
      </div>
      <p className="mt-1 text-soft">{summary(entry)}</p>
      <ColumnStrip table={entry.table} />
      <RowsGrid table={entry.table} />
    </section>
  );
}

function Remove({ entry }: { entry: TableEntry }) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => api.removeTable(entry.table.name),
    onSuccess: async () => {
      await client.invalidateQueries();
      go.tables();
    },
  });
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="text-soft underline underline-offset-2">Delete table</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-ink/30" />
        <AlertDialog.Content className="fixed left-1/2 top-1/3 w-96 -translate-x-1/2 rounded border border-rule bg-paper p-5">
          <AlertDialog.Title className="font-serif text-lg">Delete {entry.table.name}?</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-soft">
            Its {plural(entry.table.rows, "row")} and the uploaded copy are deleted for good. Questions in the trail that need it can no longer be answered.
          </AlertDialog.Description>
          {remove.isError && <ProblemNote error={remove.error} />}
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild><Button>Keep it</Button></AlertDialog.Cancel>
            <Button className="text-stop" disabled={remove.isPending} onClick={() => remove.mutate()}>Delete</Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

function Beside({ entry, relationships }: { entry: TableEntry; relationships: Relationship[] }) {
  const { table, examples } = entry;
  const joins = relationships.filter((r) => r.table === table.name || r.other === table.name);
  return (
    <aside className="overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="What was found">
      <Heading>What was found on reading the file</Heading>
      {(table.notes ?? []).length === 0 && <p className="py-2 text-soft">Nothing had to be changed.</p>}
      <ul>
        {(table.notes ?? []).map((note) => (
          <li key={note.act} className="flex gap-2.5 border-b border-rule py-2">
            <span aria-hidden className={note.caution ? "text-caution" : "text-holds"}>{note.caution ? "!" : "✓"}</span>
            <span>
              <span className="sr-only">{note.caution ? "Caution: " : "Done: "}</span>
              {note.act}
              {note.detail && <small className="block text-soft">{note.detail}</small>}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-5"><Heading>How it joins</Heading></div>
      {joins.length === 0 && <p className="py-2 text-soft">No other table shares its values.</p>}
      <ul>{joins.map((r) => <JoinLine key={`${r.table}.${r.column}.${r.other}`} r={r} here={table.name} />)}</ul>
      {examples.length > 0 && (
        <>
          <div className="mt-5"><Heading>Worth asking</Heading></div>
          <ul className="mt-1 space-y-1">
            {examples.map((q) => <li key={q}><Link className="no-underline hover:underline" onClick={() => go.draft(q)}>{q}</Link></li>)}
          </ul>
        </>
      )}
    </aside>
  );
}

function JoinLine({ r, here }: { r: Relationship; here: string }) {
  const left = r.table === here ? r.column : `${r.table}.${r.column}`;
  const right = r.other === here ? r.other_column : `${r.other}.${r.other_column}`;
  return (
    <li className="border-b border-rule py-2">
      <span className="font-mono text-xs">{left}</span> {r.one_to_one ? "one to one" : "many to one"} <span className="font-mono text-xs">{right}</span>
      <small className="block text-soft">
        {r.unmatched === 0 ? "every row finds its partner" : `${(100 * r.match_rate).toFixed(1)}% find one; ${whole(r.unmatched)} do not`}
      </small>
    </li>
  );
}
