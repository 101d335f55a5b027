/** Bringing rows in: files dropped or picked, cells pasted, rows fetched; and how far each reading is. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Fetch, type Workspace } from "../../api/client";
import { dismiss, ended, follow, sendAll, useWorks, type Work } from "../../api/work";
import { bytes } from "../../ui/format";
import { PicturesSent } from "./pictures-sent";
import {
  Button,
  Choose,
  DropPlace,
  Link,
  PickFiles,
  ProblemNote,
  ProgressBar,
  TextField,
  Window,
} from "../../ui/primitives";

const KINDS =
  ".csv,.tsv,.txt,.tab,.psv,.dat,.md,.xlsx,.xlsm,.xls,.xlsb,.ods,.json,.jsonl,.ndjson,.parquet,.html,.htm,.gz,.zip,.png,.jpg,.jpeg,.gif,.webp";

export function BringIn({ workspace }: { workspace: Workspace }) {
  const [window, setWindow] = useState<"paste" | "fetch" | null>(null);
  const works = useWorks();

  return (
    <div
      className="px-3.5 pt-4"
      onPaste={(e) => {
        const files = [...e.clipboardData.files];
        if (files.length) sendAll(files);
      }}
    >
      <DropPlace className="" onDrop={(dropped) => sendAll([...dropped.files])}>
        Drop files here,{" "}
        <PickFiles label="Choose files" accept={KINDS} multiple onPick={(files) => sendAll(files)}>
          choose files
        </PickFiles>
        , <Link onClick={() => setWindow("paste")}>paste cells</Link>, or{" "}
        <Link onClick={() => setWindow("fetch")}>fetch from elsewhere</Link>
        <small className="mt-1 block">
          Delimited text, workbooks, JSON, Parquet, .gz, .zip; up to {bytes(workspace.upload_limit)} each; and pictures
          whose names stand in cells
        </small>
      </DropPlace>
      <PicturesSent />
      <ul aria-live="polite">
        {works.map((work) => (
          <WorkLine key={work.key} work={work} />
        ))}
      </ul>
      {window === "paste" && <Paste onClose={() => setWindow(null)} />}
      {window === "fetch" && <FetchFrom folders={workspace.folders} onClose={() => setWindow(null)} />}
    </div>
  );
}

/** One file: how far its sending is, then its reading; a button stops it or takes the line away. */
function WorkLine({ work }: { work: Work }) {
  const { sending, job } = work;
  const over = (job !== null && ended(job)) || sending?.status === "failed";
  const problem = job?.problem ?? sending?.problem;
  return (
    <li className="mt-3 break-words text-xs">
      <div className="flex items-baseline gap-2">
        <b className="font-medium">{job?.file ?? sending?.file}</b>
        <Link className="ml-auto shrink-0" onClick={() => dismiss(work)}>
          {over ? "clear" : "stop"}
        </Link>
      </div>
      {problem ? (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      ) : (
        <>
          <p className="text-soft">
            {job
              ? job.what
              : sending?.status === "sending"
                ? `Sending, ${Math.round(100 * sending.share)}%`
                : "The server does not answer; trying again"}
          </p>
          {!over && (
            <ProgressBar
              share={job ? job.share : (sending?.share ?? 0)}
              label={job ? `Reading ${job.file}` : "Sending"}
            />
          )}
        </>
      )}
    </li>
  );
}

function Paste({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("pasted");
  const [content, setContent] = useState("");
  const paste = useMutation({
    mutationFn: () => api.paste(name || "pasted", content),
    onSuccess: (job) => {
      follow(job);
      onClose();
    },
  });
  return (
    <Window
      open
      onClose={onClose}
      title="Paste cells"
      about="Copy cells in a spreadsheet or a table of a web page, and paste them here with their header."
    >
      <TextField label="Name of the table" value={name} onChange={(e) => setName(e.target.value)} />
      <label className="mt-3 block text-soft">
        Cells
        <textarea
          rows={10}
          value={content}
          onChange={(e) => setContent(e.target.value)}
          onPaste={(e) => {
            /* A web page's table comes as HTML; a spreadsheet's is best as text. */
            const html = e.clipboardData.getData("text/html");
            const text = e.clipboardData.getData("text/plain");
            if (/<table/i.test(html) && !text.includes("\t")) {
              e.preventDefault();
              setContent(html.slice(html.search(/<table/i)));
            }
          }}
          className="mt-0.5 block w-full rounded border border-rule bg-paper px-2 py-1 font-mono text-xs text-ink"
        />
      </label>
      {paste.isError && <ProblemNote error={paste.error} />}
      <div className="mt-4 flex justify-end">
        <Button disabled={!content.trim() || paste.isPending} onClick={() => paste.mutate()}>
          Read these cells
        </Button>
      </div>
    </Window>
  );
}

type Kind = "address" | "database" | "store" | "folder" | "feed";
const FROM: readonly (readonly [Kind, string])[] = [
  ["address", "an address (HTTP or HTTPS)"],
  ["database", "a database server"],
  ["store", "an object store (S3 protocol)"],
  ["folder", "a folder of the server's machine"],
  ["feed", "the feed: a series by its code"],
];
const SYSTEMS = [
  ["mysql", "MariaDB or MySQL"],
  ["postgresql", "PostgreSQL"],
] as const;

function FetchFrom({ folders, onClose }: { folders: string[]; onClose: () => void }) {
  const [kind, setKind] = useState<Kind>("address");
  const [system, setSystem] = useState<"mysql" | "postgresql">("mysql");
  const [values, setValues] = useState<Record<string, string>>({});
  const value = (name: string) => values[name] ?? "";
  const field = (name: string, label: string, more: { hint?: string; type?: string; placeholder?: string } = {}) => (
    <TextField
      label={label}
      value={value(name)}
      onChange={(e) => setValues((v) => ({ ...v, [name]: e.target.value }))}
      autoComplete="off"
      {...more}
    />
  );
  const wanted = (): Fetch => {
    const secret = value("secret") || null;
    switch (kind) {
      case "address":
        return { origin: { kind, url: value("url") }, secret: null, name: "" };
      case "feed":
        return { origin: { kind, code: value("code") }, secret: null, name: "" };
      case "folder":
        return { origin: { kind, path: value("path") }, secret: null, name: "" };
      case "store":
        return {
          origin: {
            kind,
            endpoint: value("endpoint"),
            bucket: value("bucket"),
            key: value("key"),
            access_key: value("access"),
          },
          secret,
          name: "",
        };
      case "database":
        return {
          origin: {
            kind,
            system,
            host: value("host"),
            port: Number(value("port") || (system === "mysql" ? 3306 : 5432)),
            database: value("database"),
            user: value("user"),
            query: value("query"),
            name: value("name") || "fetched",
          },
          secret,
          name: value("name"),
        };
    }
  };
  const fetched = useMutation({
    mutationFn: () => api.fetch(wanted()),
    onSuccess: (job) => {
      follow(job);
      onClose();
    },
  });
  return (
    <Window
      open
      onClose={onClose}
      title="Fetch from elsewhere"
      about="What is fetched can be fetched again later; passwords are kept encrypted on this machine and are never shown again."
    >
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          fetched.mutate();
        }}
      >
        <Choose label="From" value={kind} options={FROM} onChange={setKind} />
        {kind === "address" && field("url", "Address", { placeholder: "https://example.org/visits.csv" })}
        {kind === "folder" &&
          field("path", "Path of the file", {
            hint: folders.length
              ? `Open for reading: ${folders.join(", ")}`
              : "No folder is open for reading; start Gumption with --allow-folder DIR",
          })}
        {kind === "store" && (
          <>
            {field("endpoint", "Address of the store", { placeholder: "https://store.example:9000" })}
            <div className="grid grid-cols-2 gap-3">
              {field("bucket", "Bucket")}
              {field("key", "Object")}
              {field("access", "Access key")}
              {field("secret", "Secret key", { type: "password" })}
            </div>
          </>
        )}
        {kind === "database" && (
          <>
            <div className="grid grid-cols-2 gap-3">
              <Choose label="Kind of server" value={system} options={SYSTEMS} onChange={setSystem} />
              {field("name", "Name of the table here")}
              {field("host", "Host")}
              {field("port", "Port", { placeholder: system === "mysql" ? "3306" : "5432" })}
              {field("database", "Database")}
              {field("user", "User")}
              {field("secret", "Password", { type: "password" })}
            </div>
            {field("query", "Table, or one SELECT", { placeholder: "visits, or SELECT … FROM …" })}
          </>
        )}
        {kind === "feed" && (
          <>
            {field("code", "Code, or a word of its name", { placeholder: "GBPEUR" })}
            <SeriesList about={value("code")} onPick={(code) => setValues((v) => ({ ...v, code }))} />
          </>
        )}
        {fetched.isError && <ProblemNote error={fetched.error} />}
        <div className="flex justify-end">
          <Button type="submit" disabled={fetched.isPending}>
            Fetch
          </Button>
        </div>
      </form>
    </Window>
  );
}

/** The series of the feed whose code or name holds what is typed; a click takes a code. */
function SeriesList({ about, onPick }: { about: string; onPick: (code: string) => void }) {
  const found = useQuery({ queryKey: ["feed", about], queryFn: () => api.series(about), placeholderData: (p) => p });
  if (found.isError) return <ProblemNote error={found.error} />;
  if (found.data?.length === 0) return <p className="text-soft">No series is called so.</p>;
  return (
    <ul className="max-h-56 overflow-y-auto border-y border-rule" aria-label="Series of the feed">
      {(found.data ?? []).map((series) => (
        <li key={series.code} className="flex items-baseline gap-3 py-1">
          <Link className="w-24 shrink-0 font-mono" onClick={() => onPick(series.code)}>
            {series.code}
          </Link>
          <span className="min-w-0 truncate">{series.name}</span>
          <span className="ml-auto shrink-0 pr-2 text-soft">{series.kind}</span>
        </li>
      ))}
    </ul>
  );
}
