/** One workspace: what it holds, its day, and what can be done with the whole of it. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { shelf, type Shelved } from "../../api/client";
import { Deletion } from "../../ui/deletion";
import { dateWords, dayOf, plural, whole } from "../../ui/format";
import { Button, Heading, Key, Link, ProblemNote, TextField } from "../../ui/primitives";
import { into } from "./room";

export function Beside({ of: w }: { of: Shelved }) {
  const client = useQueryClient();
  const [naming, setNaming] = useState<"rename" | "copy" | null>(null);
  const refresh = () => client.invalidateQueries({ queryKey: ["workspaces"] });
  const change = useMutation({ mutationFn: (how: () => Promise<unknown>) => how(), onSuccess: refresh });
  return (
    <>
      <div className="flex items-baseline gap-3">
        <h2 className="min-w-0 break-words font-serif text-xl font-medium">{w.title}</h2>
        <Link className="ml-auto shrink-0" onClick={() => setNaming("rename")}>
          rename
        </Link>
      </div>
      {naming && (
        <Naming
          key={naming}
          label={naming === "rename" ? "Its name" : "The copy’s name"}
          first={naming === "rename" ? w.title : `${w.title}, copy`}
          onDone={(title) => {
            setNaming(null);
            if (title) change.mutate(() => (naming === "rename" ? shelf.rename(w.id, title) : shelf.copy(w.id, title)));
          }}
        />
      )}
      <p className="mt-3 flex gap-2">
        <Button className="border-ink font-medium" onClick={() => into(w)}>
          Go on with it <Key>Enter</Key>
        </Button>
        <Button disabled={change.isPending} onClick={() => setNaming("copy")}>
          Make a copy
        </Button>
      </p>
      {change.isError && (
        <div className="mt-2">
          <ProblemNote error={change.error} />
        </div>
      )}
      <Holds of={w} />
      <dl className="mt-3">
        <Line name="Words">
          {plural(w.terms, "term")}, {w.lessons} learned
        </Line>
        <Line name="Trail">
          {plural(w.questions, "question")}
          {w.first_asked ? ` since ${dayOf(w.first_asked)}` : ""}
        </Line>
        <Line name="Its day">{w.as_of ? dateWords(w.as_of) : "the real one"}</Line>
      </dl>
      <div className="mt-5">
        <Heading>Keep, or put away</Heading>
      </div>
      <Act words="As one file, for another machine">
        <a className="text-pen underline underline-offset-2" href={shelf.savedFile(w.id)} download>
          save
        </a>
      </Act>
      {w.demo && (
        <Act words="The demo as it was made" small="your questions, words and tables in it go">
          <Deletion
            trigger="have it afresh"
            title="Have the demo afresh?"
            words={`${plural(w.questions, "question")}, ${plural(w.terms, "term")} and every table in it are replaced by the demo as it was made.`}
            act={() => shelf.demoAfresh(w.id)}
            done={() => undefined}
            yes="Have it afresh"
          />
        </Act>
      )}
      <Act words={w.archived ? "Folded away" : "Folded away, nothing lost"}>
        <Link disabled={change.isPending} onClick={() => change.mutate(() => shelf.archive(w.id, !w.archived))}>
          {w.archived ? "take it out" : "archive"}
        </Link>
      </Act>
      <Act words="Gone for good">
        <Deletion
          trigger="delete"
          title={`Delete ${w.title}?`}
          words={`${plural(w.tables.length, "table")}, ${plural(w.questions, "question")} and ${plural(w.terms, "term")} are deleted for good.`}
          act={() => shelf.remove(w.id)}
          done={() => undefined}
        />
      </Act>
    </>
  );
}

function Naming({ label, first, onDone }: { label: string; first: string; onDone: (title: string | null) => void }) {
  const [title, setTitle] = useState(first.slice(0, 100));
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector("input")?.select(), []);
  return (
    <form
      ref={form}
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        onDone(title.trim() || null);
      }}
    >
      <TextField
        label={label}
        maxLength={100}
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        onKeyDown={(e) => e.key === "Escape" && onDone(null)}
      />
      <p className="mt-1.5 flex gap-2">
        <Button type="submit" disabled={!title.trim()}>
          Keep this name
        </Button>
        <Button onClick={() => onDone(null)}>Leave it</Button>
      </p>
    </form>
  );
}

const MOST = 8;

/** Its tables with their rows, as bars that end at one line. */
function Holds({ of: w }: { of: Shelved }) {
  const most = w.tables[0]?.[1] ?? 0;
  return (
    <>
      <div className="mt-5">
        <Heading>What it holds</Heading>
      </div>
      {w.tables.length === 0 && <p className="mt-1 text-soft">No table yet.</p>}
      <ul className="mt-2">
        {w.tables.slice(0, MOST).map(([name, rows]) => (
          <li key={name} className="grid grid-cols-[96px_minmax(0,1fr)] gap-3">
            <span className="relative border-r-2 border-pen-light pr-1.5 text-right font-mono text-xs leading-[22px]">
              <span
                aria-hidden
                className="absolute inset-y-0 right-0 bg-pen-light/30"
                style={{ width: `${most ? (100 * rows) / most : 0}%` }}
              />
              <span className="relative">{whole(rows)}</span>
            </span>
            <span className="truncate leading-[22px]">{name}</span>
          </li>
        ))}
      </ul>
      {w.tables.length > MOST && <p className="mt-1 text-xs text-soft">and {w.tables.length - MOST} more</p>}
    </>
  );
}

const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="grid grid-cols-[96px_minmax(0,1fr)] gap-3 border-t border-rule py-1.5">
    <dt className="text-soft">{name}</dt>
    <dd>{children}</dd>
  </div>
);

const Act = ({ words, small, children }: { words: string; small?: string; children: ReactNode }) => (
  <div className="flex items-baseline gap-3 border-b border-rule py-2">
    <span>
      {words}
      {small && <small className="block text-soft">{small}</small>}
    </span>
    <span className="ml-auto shrink-0">{children}</span>
  </div>
);
