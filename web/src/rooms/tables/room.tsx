import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type TableEntry, type Workspace } from "../../api/client";
import { bytes, plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Deletion } from "../../ui/deletion";
import { Heading, Link } from "../../ui/primitives";
import { BringIn } from "./bring-in";
import { ColumnStrip } from "./column-strip";
import { Found } from "./found";
import { GuideRoom } from "./guide";
import { JoinsOf } from "./joins";
import { TableWindow } from "./meaning";
import { RowsGrid } from "./rows-grid";
import { ShapeWindow } from "./shape";
import { Replace, Versions, Waiting } from "./versions";
import { WorthALook } from "./worth";

/** A name that no table has, since names hold no slash. */
const GUIDE = "/guide";

export function TablesRoom({ workspace, chosen }: { workspace: Workspace; chosen: string | null }) {
  const guide = chosen === GUIDE;
  const entry = guide ? undefined : (workspace.tables.find((t) => t.table.name === chosen) ?? workspace.tables[0]);
  return (
    <div className="room">
      <aside className="overflow-y-auto border-r border-rule bg-desk py-4" aria-label="Tables">
        <div className="px-3.5">
          <Heading>Tables</Heading>
        </div>
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
                  {t.suggestions.some((s) => s.step?.kind === "unpivot") && (
                    <span className="ml-1 text-caution">periods stand as columns</span>
                  )}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <BringIn workspace={workspace} />
        <p className="px-3.5 pt-5 text-xs">
          <Link onClick={() => go.table(GUIDE)}>What makes a file easy to ask about</Link>
        </p>
        {workspace.tables.length > 0 && (
          <p className="px-3.5 pt-2 text-xs">
            <DeleteEverything />
          </p>
        )}
      </aside>
      {guide ? <GuideRoom /> : entry ? <TableView entry={entry} key={entry.table.name} /> : <Nothing />}
      {entry && <Beside entry={entry} workspace={workspace} />}
      <Waiting />
    </div>
  );
}

const Nothing = () => (
  <section className="p-10">
    <h1 className="font-serif text-2xl">Bring in a file to begin</h1>
    <p className="mt-2 max-w-md text-soft">
      Drop files on the left. Each sheet becomes a table, and what was found in it is shown here before you ask
      anything.
    </p>
  </section>
);

const useLook = (entry: TableEntry) =>
  useQuery({ queryKey: ["look", entry.table.name], queryFn: () => api.look(entry.table.name) });

function TableView({ entry }: { entry: TableEntry }) {
  const { table } = entry;
  const look = useLook(entry);
  const [window, setWindow] = useState<"meaning" | "shape" | null>(null);
  const names = table.synonyms ?? [];
  return (
    <section className="flex min-w-0 flex-col overflow-hidden px-6 pt-4" aria-label={table.name}>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-2xl font-medium">{table.name}</h1>
        <span className="ml-auto flex flex-wrap gap-x-4">
          <Link onClick={() => setWindow("shape")}>change its shape</Link>
          <Replace entry={entry} />
          <a className="text-pen underline underline-offset-2" href={api.fileOf(table.name, "csv")} download>
            CSV
          </a>
          <a className="text-pen underline underline-offset-2" href={api.fileOf(table.name, "parquet")} download>
            Parquet
          </a>
          <Remove entry={entry} />
        </span>
      </div>
      <p className="mt-1 text-soft">
        {table.description || look.data?.words || plural(table.rows, "row")} From {table.source} ({bytes(entry.bytes)},
        read in {entry.seconds.toFixed(1)} s{entry.version > 1 ? `, version ${entry.version}` : ""}).{" "}
        {names.length > 0 ? (
          <>
            Ask about it by: <b className="font-semibold">{names.join(", ")}</b>.{" "}
          </>
        ) : null}
        <Link onClick={() => setWindow("meaning")}>Say what it is</Link>
      </p>
      <ColumnStrip entry={entry} />
      <RowsGrid table={table} key={`${entry.version}-${table.rows}-${table.columns.length}`} />
      {window === "meaning" && <TableWindow entry={entry} onClose={() => setWindow(null)} />}
      {window === "shape" && <ShapeWindow entry={entry} onClose={() => setWindow(null)} />}
    </section>
  );
}

function Remove({ entry }: { entry: TableEntry }) {
  return (
    <Deletion
      trigger="delete"
      title={`Delete ${entry.table.name}?`}
      words={`Its ${plural(entry.table.rows, "row")}, its earlier versions and the uploaded copy are deleted for good. Questions in the trail that need it can no longer be answered.`}
      act={() => api.removeTable(entry.table.name)}
      done={go.tables}
    />
  );
}

const DeleteEverything = () => (
  <Deletion
    trigger="Delete everything"
    title="Delete everything?"
    words="Every table, every version, every upload, every picture and every question is deleted for good."
    act={api.removeEverything}
    done={go.tables}
  />
);

function Beside({ entry, workspace }: { entry: TableEntry; workspace: Workspace }) {
  const look = useLook(entry);
  return (
    <aside className="overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="What was found">
      <Found entry={entry} look={look.data} />
      <JoinsOf entry={entry} workspace={workspace} />
      {entry.examples.length > 0 && (
        <>
          <div className="mt-5">
            <Heading>Worth asking</Heading>
          </div>
          <ul className="mt-1 space-y-1">
            {entry.examples.map((q) => (
              <li key={q}>
                <Link className="no-underline hover:underline" onClick={() => go.draft(q)}>
                  {q}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <WorthALook entry={entry} />
      <Versions entry={entry} />
    </aside>
  );
}
