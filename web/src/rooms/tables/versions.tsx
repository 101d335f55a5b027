/** A newer file for a table: what would be different, a person's yes, and the versions before. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Replacement, type TableEntry } from "../../api/client";
import { dismiss, follow, sendAll, useWorks } from "../../api/work";
import { plural, whole } from "../../ui/format";
import { Button, Heading, Link, PickFiles, ProblemNote, Window } from "../../ui/primitives";

export function Replace({ entry }: { entry: TableEntry }) {
  const { name } = entry.table;
  const again = useMutation({ mutationFn: () => api.fetchAgain(name), onSuccess: (job) => follow(job) });
  if (entry.origin.kind !== "upload")
    return (
      <>
        <Link onClick={() => again.mutate()}>fetch again</Link>
        {again.isError && <ProblemNote error={again.error} />}
      </>
    );
  return (
    <PickFiles label={`Choose a newer file for ${name}`} accept="" onPick={(files) => sendAll(files.slice(0, 1), name)}>
      replace by a newer file
    </PickFiles>
  );
}

/** Every newer file that waits for a yes, one after the other. */
export function Waiting() {
  const client = useQueryClient();
  const work = useWorks().find((w) => w.job?.replacement);
  const waiting = work?.job?.replacement;
  const done = async () => {
    if (work) dismiss(work);
    await client.invalidateQueries();
  };
  const accept = useMutation({ mutationFn: (id: string) => api.replaceBy(id), onSuccess: done });
  const refuse = useMutation({ mutationFn: (id: string) => api.dropReplacement(id), onSettled: done });
  if (!waiting) return null;
  return (
    <Window
      open
      onClose={() => refuse.mutate(waiting.id)}
      title={`Replace ${waiting.table} by ${waiting.file}?`}
      about="The recipe was applied to the newer file. The table as it is now is kept and can be restored."
    >
      <Differences waiting={waiting} />
      {accept.isError && <ProblemNote error={accept.error} />}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={() => refuse.mutate(waiting.id)}>Keep what is there</Button>
        <Button className="border-pen text-pen" disabled={accept.isPending} onClick={() => accept.mutate(waiting.id)}>
          Replace
        </Button>
      </div>
    </Window>
  );
}

function Differences({ waiting }: { waiting: Replacement }) {
  const cautions = waiting.notes.filter((n) => n.caution);
  return (
    <>
      <p>
        {whole(waiting.rows_before)} rows now, {plural(waiting.rows_after, "row")} then.
      </p>
      {waiting.changes.length === 0 ? (
        <p className="text-holds">The same columns, of the same types.</p>
      ) : (
        <ul className="mt-2">
          {waiting.changes.map((c) => (
            <li key={c.column} className="border-b border-rule py-1">
              <b className="font-medium">{c.column}</b> {c.what}
            </li>
          ))}
        </ul>
      )}
      {cautions.length > 0 && (
        <ul className="mt-2 text-caution">
          {cautions.map((n) => (
            <li key={n.act}>! {n.act}</li>
          ))}
        </ul>
      )}
    </>
  );
}

export function Versions({ entry }: { entry: TableEntry }) {
  const client = useQueryClient();
  const restore = useMutation({
    mutationFn: (version: number) => api.restore(entry.table.name, version),
    onSuccess: () => client.invalidateQueries(),
  });
  if (entry.versions.length === 0) return null;
  return (
    <>
      <div className="mt-5">
        <Heading>Earlier versions</Heading>
      </div>
      <ul>
        {entry.versions.map((v) => (
          <li key={v.version} className="flex gap-2 border-b border-rule py-2">
            <span className="min-w-0 flex-1 break-words">
              Version {v.version}, {plural(v.rows, "row")}
              <small className="block text-soft">
                {v.source}, replaced{" "}
                {new Date(`${v.replaced_at}Z`).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
              </small>
            </span>
            <Link className="shrink-0 self-start" onClick={() => restore.mutate(v.version)}>
              restore
            </Link>
          </li>
        ))}
      </ul>
      {restore.isError && <ProblemNote error={restore.error} />}
    </>
  );
}
