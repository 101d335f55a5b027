/** What was found on reading the file: each act with its undoing, each open question with its answers, and what to offer. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Look, type Note, type Recipe, type Suggestion, type TableEntry } from "../../api/client";
import { follow } from "../../api/work";
import { plural, whole } from "../../ui/format";
import { numberWords } from "../../ui/style";
import { Heading, Link, ProblemNote } from "../../ui/primitives";
import { actWords, ordered, redone, undone, withStep } from "./recipe";

/** Read the table again by another recipe. */
export function useRecipe(entry: TableEntry) {
  return useMutation({
    mutationFn: (recipe: Recipe) => api.setRecipe(entry.table.name, recipe),
    onSuccess: (job) => follow(job),
  });
}

export function Found({ entry, look }: { entry: TableEntry; look: Look | undefined }) {
  const recipe = useRecipe(entry);
  const notes = [...(entry.found.notes ?? [])].sort((a, b) => Number(b.caution ?? false) - Number(a.caution ?? false));
  const declined = entry.recipe.declined ?? [];
  return (
    <>
      <Heading>What was found on reading the file</Heading>
      {notes.length === 0 && declined.length === 0 && <p className="py-2 text-soft">Nothing had to be changed.</p>}
      <ul>
        {notes.map((note, i) => (
          <NoteLine
            key={`${note.act}-${i}`}
            note={note}
            busy={recipe.isPending}
            onUndo={(key) => recipe.mutate(undone(entry, key))}
            onChoose={(column, order) => recipe.mutate(ordered(entry, column, order))}
          />
        ))}
        {look !== undefined && look.repeated > 0 && (
          <li className="flex gap-2.5 border-b border-rule py-2">
            <Sign caution />
            <span className="min-w-0 flex-1">
              {plural(look.repeated, "row stands", "rows stand")} twice, in every column
            </span>
            <Link
              className="shrink-0 self-start"
              onClick={() => recipe.mutate(withStep(entry, { kind: "drop_repeats" }))}
            >
              keep one
            </Link>
          </li>
        )}
        {look !== undefined && look.outliers.length > 0 && <FarOut outliers={look.outliers} />}
        {declined.map((key) => (
          <li key={key} className="flex gap-2.5 border-b border-rule py-2 text-soft">
            <span aria-hidden>–</span>
            <span className="min-w-0 flex-1">Undone: {actWords(key)}</span>
            <Link className="shrink-0 self-start" onClick={() => recipe.mutate(redone(entry, key))}>
              do again
            </Link>
          </li>
        ))}
      </ul>
      {recipe.isError && <ProblemNote error={recipe.error} />}
      <Offers entry={entry} />
    </>
  );
}

const Sign = ({ caution }: { caution: boolean }) => (
  <>
    <span aria-hidden className={caution ? "text-caution" : "text-holds"}>
      {caution ? "!" : "✓"}
    </span>
    <span className="sr-only">{caution ? "Caution: " : "Done: "}</span>
  </>
);

const short = (n: number) => numberWords(n, 1);

/** Values far from the rest, all columns in one line; which and how far on a click. */
function FarOut({ outliers }: { outliers: Look["outliers"] }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="flex gap-2.5 border-b border-rule py-2">
      <Sign caution />
      <span className="min-w-0 flex-1">
        Values far from the rest in {outliers.map((o) => o.column).join(", ")}
        {open ? (
          outliers.map((o) => (
            <small key={o.column} className="block text-soft">
              {o.column}: {plural(o.rows, "value")} beyond {short(o.low)} to {short(o.high)}, such as{" "}
              {o.examples.map(short).join(", ")}
            </small>
          ))
        ) : (
          <small className="block text-soft">they are counted like all others</small>
        )}
      </span>
      <Link className="shrink-0 self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "hide" : "show"}
      </Link>
    </li>
  );
}

function NoteLine({
  note,
  busy,
  onUndo,
  onChoose,
}: {
  note: Note;
  busy: boolean;
  onUndo: (key: string) => void;
  onChoose: (column: string, order: "day" | "month") => void;
}) {
  const [open, setOpen] = useState(false);
  const examples = note.examples ?? [];
  const key = note.key ?? "";
  const undoable =
    key !== "" &&
    !key.startsWith("order:") &&
    !["no_header", "missing", "zeros", "digits"].includes(key.split(":")[0] ?? "");
  return (
    <li className="flex gap-2.5 border-b border-rule py-2">
      <Sign caution={note.caution ?? false} />
      <span className="min-w-0 flex-1 break-words">
        {note.act}
        {note.detail && <small className="block text-soft">{note.detail}</small>}
        {note.choices?.map((c) => (
          <Link key={c.order} className="block text-xs" onClick={() => onChoose(c.column, c.order)}>
            {c.label}
          </Link>
        ))}
        {open && (
          <small className="mt-1 block text-soft">
            {note.rows ? `${whole(note.rows)} in all. ` : ""}
            {examples.map((e) => (
              <q key={e} className="mr-2 font-mono text-[11px]">
                {e}
              </q>
            ))}
          </small>
        )}
      </span>
      <span className="flex shrink-0 flex-col items-end">
        {undoable && (
          <Link aria-label={`Undo: ${note.act}`} disabled={busy} onClick={() => onUndo(key)}>
            undo
          </Link>
        )}
        {examples.length > 0 && (
          <Link aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "hide" : "show"}
          </Link>
        )}
      </span>
    </li>
  );
}

function Offers({ entry }: { entry: TableEntry }) {
  const recipe = useRecipe(entry);
  const append = useMutation({
    mutationFn: (s: Suggestion) =>
      api.fetch({ origin: s.append ?? { kind: "append", tables: [], column: "" }, secret: null, name: s.name ?? "" }),
    onSuccess: (job) => follow(job),
  });
  if (entry.suggestions.length === 0) return null;
  const act = (s: Suggestion) => (s.step ? recipe.mutate(withStep(entry, s.step)) : append.mutate(s));
  return (
    <>
      <div className="mt-5">
        <Heading>Worth changing</Heading>
      </div>
      <ul>
        {entry.suggestions.map((s) => (
          <li key={s.words} className="flex gap-2.5 border-b border-rule py-2">
            <span className="min-w-0 flex-1">{s.words}</span>
            <Link className="shrink-0 self-start" onClick={() => act(s)}>
              {s.append ? "put together" : (VERB[s.step?.kind ?? ""] ?? "do it")}
            </Link>
          </li>
        ))}
      </ul>
      {(recipe.error ?? append.error) && <ProblemNote error={recipe.error ?? append.error} />}
    </>
  );
}

const VERB: Record<string, string> = { unpivot: "as rows", split: "split", leave_out: "leave out", fill_down: "fill" };
