/** A text that asks several things: its questions with their readings, before any of them runs. */
import { useEffect, useState } from "react";
import { api, type Brief } from "../../api/client";
import { plural } from "../../ui/format";

export function BriefView({ brief }: { brief: Brief }) {
  return (
    <div className="mt-3" data-testid="brief">
      <p>
        <b className="font-semibold">{plural(brief.tasks.length, "question")}</b>
        {brief.shared.length > 0 && <span className="text-soft">, for all of them: {brief.shared.join("; ")}</span>}
      </p>
      <ol className="mt-2 space-y-2">
        {brief.tasks.map((task, i) => (
          <li key={i} className="flex gap-3">
            <span className="w-5 shrink-0 text-right font-mono text-[12.5px] text-soft">{i + 1}</span>
            <div>
              <p className="font-serif text-base leading-snug">{task.own}</p>
              <p className={task.status === "answered" || task.status === "told" ? "text-soft" : "text-caution"}>
                {task.reading}
                {task.follows && <span className="text-soft">, going on from the one before</span>}
                {task.status === "answered" && task.doubt && <span className="text-caution"> · not sure</span>}
              </p>
              {task.status === "answered" && task.unread.length > 0 && (
                <p className="text-caution">Not used: {task.unread.join(", ")}</p>
              )}
            </div>
          </li>
        ))}
      </ol>
      {brief.left.length > 0 && <p className="mt-2 text-soft">Asks nothing: {brief.left.join(" · ")}</p>}
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
