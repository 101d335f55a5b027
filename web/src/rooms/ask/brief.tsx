/** A text that asks several things: its questions with their readings, to be put right before any of them runs. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Brief } from "../../api/client";
import { plural } from "../../ui/format";
import { Link } from "../../ui/primitives";

type Task = Brief["tasks"][number];

/** One question of a text as it is to be asked. */
export type Asked = Pick<Task, "text" | "follows" | "heading">;

/** A text's questions, and what a person changed of them. */
export function BriefView({
  brief,
  asked,
  onChange,
}: {
  brief: Brief;
  asked: Asked[];
  onChange: (asked: Asked[]) => void;
}) {
  const put = (n: number, next: Asked) => onChange(asked.map((a, i) => (i === n ? next : a)));
  const drop = (n: number) =>
    // What went on from the one that goes has nothing to go on from.
    onChange(
      asked.flatMap((a, i) => {
        if (i !== n + 1) return i === n ? [] : [a];
        // What stood under its heading still does.
        return [{ ...a, follows: n > 0 && a.follows, heading: a.heading || (asked[n]?.heading ?? "") }];
      }),
    );
  const join = (n: number) =>
    onChange(
      asked.flatMap((a, i) =>
        i === n ? [{ ...a, text: `${a.text} ${asked[n + 1]?.text ?? ""}`.trim() }] : i === n + 1 ? [] : [a],
      ),
    );
  return (
    <div className="mt-3" data-testid="brief">
      <p>
        <b className="font-semibold">{plural(asked.length, "question")}</b>
        {brief.shared.length > 0 && <span className="text-soft">, for all of them: {brief.shared.join("; ")}</span>}
      </p>
      <ol className="mt-2 space-y-2">
        {asked.map((one, n) => (
          <li key={n}>
            {one.heading && <h3 className="mb-1 mt-3 font-semibold">{one.heading}</h3>}
            <div className="flex gap-3">
              <span className="w-5 shrink-0 text-right font-mono text-[12.5px] text-soft">{n + 1}</span>
              <TaskLine
                asked={one}
                task={brief.tasks.find((t) => t.text === one.text)}
                onText={(text) => put(n, { ...one, text })}
              >
                {asked.length > 1 && <Link onClick={() => drop(n)}>leave out</Link>}
                {n + 1 < asked.length && <Link onClick={() => join(n)}>one with the next</Link>}
                {n > 0 && (
                  <Link onClick={() => put(n, { ...one, follows: !one.follows })}>
                    {one.follows ? "ask on its own" : "go on from the one before"}
                  </Link>
                )}
              </TaskLine>
            </div>
          </li>
        ))}
      </ol>
      {brief.left.length > 0 && <p className="mt-2 text-soft">Asks nothing: {brief.left.join(" · ")}</p>}
    </div>
  );
}

/** A question of the text with its reading; one that was changed is read anew. */
function TaskLine({
  asked,
  task,
  onText,
  children,
}: {
  asked: Asked;
  task: Task | undefined;
  onText: (text: string) => void;
  children: React.ReactNode;
}) {
  const [text, setText] = useState<string | null>(null);
  const read = useQuery({
    queryKey: ["gloss", asked.text],
    queryFn: ({ signal }) => api.gloss(asked.text, null, [], signal),
    enabled: task === undefined && !asked.follows,
  });
  const found = task ?? (asked.follows ? undefined : read.data);
  const fine = found === undefined || found.status === "answered" || found.status === "told";
  return (
    <div className="min-w-0 flex-1">
      {text === null ? (
        <p className="font-serif text-base leading-snug">{task?.own ?? asked.text}</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (text.trim()) onText(text.trim());
            setText(null);
          }}
        >
          <input
            aria-label="The question as it is to be asked"
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.key === "Escape" && setText(null)}
            className="w-full border-b border-rule bg-transparent font-serif text-base outline-none focus:border-pen"
          />
        </form>
      )}
      <p className={fine ? "text-soft" : "text-caution"}>
        {found?.reading}
        {asked.follows && <span className="text-soft">{found ? ", going on" : "Goes on"} from the one before</span>}
        {task?.status === "answered" && task.doubt && <span className="text-caution"> · not sure</span>}
      </p>
      {task?.status === "answered" && task.unread.length > 0 && (
        <p className="text-caution">Not used: {task.unread.join(", ")}</p>
      )}
      <p className="flex flex-wrap gap-x-3 text-xs">
        {text === null && <Link onClick={() => setText(asked.text)}>change</Link>}
        {children}
      </p>
    </div>
  );
}

const PAUSE = 250;

/** The questions of a text, a moment after the last key; null for one question alone. */
export function useBrief(text: string, several: boolean): Brief | null {
  const [found, setFound] = useState<{ text: string; brief: Brief } | null>(null);
  useEffect(() => {
    // What was found for an earlier text is passed over below; setting it here at every key would be a render more each.
    if (!several || !text.trim()) return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      api.brief(text, abort.signal).then(
        (brief) => setFound({ text, brief }),
        // A help while typing, like the gloss.
        () => undefined,
      );
    }, PAUSE);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [text, several]);
  return several && found && found.text === text && found.brief.tasks.length > 1 ? found.brief : null;
}
