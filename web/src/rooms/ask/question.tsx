/** The question: typed with its gloss below it, or shown with the gloss under its words. */
import { useEffect, useRef, useState } from "react";
import { api, type Answer, type Brief, type Completion, type GlossResult, type Term } from "../../api/client";
import { workspaceHere } from "../../ui/location";
import { Button, Key, Link } from "../../ui/primitives";
import { BriefView, useBrief, type Asked } from "./brief";
import { GlossedWords } from "./gloss";

/** What was typed and not sent yet, by the answer that it follows: another room may be looked at in between. */
const typed = new Map<string, string>();

type Props = {
  answer: Answer | undefined;
  draft: string | null;
  /** Questions asked before, the latest first. */
  earlier: string[];
  /** How a question of these tables may sound; empty where none is known yet. */
  example: string;
  busy: boolean;
  onAsk: (question: string, follows: number | null, terms: Term[]) => void;
  onMeant: (terms: Term[]) => void;
  /** How many questions of a text are answered. */
  progress: { done: number; of: number } | null;
  /** How far the work is, as it tells itself. */
  told: string;
  onAskAll: (asked: Asked[]) => void;
  onStop: () => void;
};

export function Question({
  answer,
  draft,
  earlier,
  example,
  busy,
  progress,
  told,
  onAsk,
  onMeant,
  onAskAll,
  onStop,
}: Props) {
  const follows = answer?.id ?? null;
  const place = `${workspaceHere()}/${follows ?? ""}`;
  const [text, setText] = useState(draft ?? typed.get(place) ?? "");
  /** How far back among earlier questions the person has walked; none while they type their own. */
  const [walked, setWalked] = useState<number | null>(null);
  const [marked, setMarked] = useState(0);
  const [away, setAway] = useState("");
  const field = useRef<HTMLTextAreaElement>(null);
  const [terms, setTerms] = useState<Term[]>([]);
  const gloss = useGloss(text, follows, terms);
  const brief = useBrief(text, gloss?.result.several === true && text.startsWith(gloss.question));

  const [changed, setChanged] = useState<{ of: Brief; asked: Asked[] } | null>(null);
  const asked = brief ? (changed?.of === brief ? changed.asked : brief.tasks) : [];

  // The next question can be typed at once, after an answer too; where one is asked back, the choice comes first.
  const asksBack = answer?.status === "asks";
  useEffect(() => {
    const box = field.current;
    if (asksBack || !box) return;
    box.focus({ preventScroll: true });
    // What stands there already is gone on with.
    box.setSelectionRange(box.value.length, box.value.length);
  }, [asksBack]);

  useEffect(() => void typed.set(place, text), [place, text]);

  useEffect(() => {
    const box = field.current;
    if (!box) return;
    box.style.height = "auto";
    box.style.height = `${box.scrollHeight}px`;
  }, [text]);

  // Those of a moment ago stay while they still fit, so that nothing jumps about between two keys.
  const completions =
    gloss && text !== away && text.startsWith(gloss.question)
      ? gloss.result.completions.filter((c) => goesOn(c, text))
      : [];
  const chosen = completions[Math.min(marked, completions.length - 1)];
  const change = (words: string) => {
    setText(words);
    setWalked(null);
    setMarked(0);
  };
  /** Go through the questions asked before, the latest first; past it the field is empty again. */
  const walk = (back: number) => {
    const next = (walked ?? -1) + back;
    if (next >= earlier.length) return;
    setWalked(next < 0 ? null : next);
    setText(next < 0 ? "" : (earlier[next] ?? ""));
  };
  const complete = ({ text: words, start }: Completion) => {
    change(`${text.slice(0, start)}${words} `);
    field.current?.focus();
  };

  const send = (afresh: boolean) => {
    if (brief && !busy) onAskAll(asked);
    else if (text.trim() && !busy) {
      typed.delete(place);
      onAsk(text.trim(), afresh ? null : follows, terms);
    }
  };

  return (
    <div>
      {answer && (
        <div className="flex items-start justify-between gap-4">
          <GlossedWords
            question={answer.question}
            glosses={answer.glosses}
            rebound={{ question: answer.question, follows: answer.follows ?? null, terms: answer.own_terms, onMeant }}
            large
          />
          <Link
            className="mt-2 shrink-0"
            onClick={() => {
              setText(answer.question);
              setTerms(answer.own_terms);
              field.current?.focus();
            }}
          >
            Edit
          </Link>
        </div>
      )}
      <div className={answer ? "mt-4 border-t border-rule pt-3" : ""}>
        <label className="sr-only" htmlFor="question">
          Your question
        </label>
        <textarea
          id="question"
          ref={field}
          rows={1}
          value={text}
          placeholder={
            answer ? "Follow on, or ask something new" : `Ask in plain words${example ? `, such as: ${example}` : ""}`
          }
          onChange={(e) => change(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter") {
              e.preventDefault();
              send(e.shiftKey);
            } else if (e.key === "Tab" && !e.shiftKey && chosen) {
              e.preventDefault();
              complete(chosen);
            } else if (e.key === "Escape" && completions.length > 0) {
              setAway(text);
            } else if (e.key === "ArrowDown" || e.key === "ArrowUp") {
              const back = e.key === "ArrowUp" ? 1 : -1;
              if (walked !== null || text === "") {
                e.preventDefault();
                walk(back);
              } else if (completions.length > 1) {
                e.preventDefault();
                setMarked((marked - back + completions.length) % completions.length);
              }
            }
          }}
          className={`block w-full resize-none overflow-hidden border-b border-rule bg-transparent pb-1 font-serif leading-snug outline-none placeholder:text-soft focus:border-pen ${answer ? "text-lg" : "text-2xl"}`}
        />
        {completions.length > 0 && (
          <ul aria-label="Completions" className="mt-1.5 flex flex-wrap items-baseline gap-x-4 gap-y-1">
            {completions.map((completion) => (
              <li key={completion.text}>
                <button
                  type="button"
                  className="hover:underline"
                  title={`Write ${completion.text}`}
                  onClick={() => complete(completion)}
                >
                  <span className={`font-serif text-base text-pen ${completion === chosen ? "underline" : ""}`}>
                    {completion.text}
                  </span>
                  {completion.note && <span className="pl-1.5 text-[11px] text-soft">{completion.note}</span>}
                  {completion === chosen && (
                    <span className="pl-1.5">
                      <Key>Tab</Key>
                    </span>
                  )}
                </button>
              </li>
            ))}
          </ul>
        )}
        {brief && <BriefView brief={brief} asked={asked} onChange={(next) => setChanged({ of: brief, asked: next })} />}
        {text.trim() && gloss && !brief && (
          <div className="mt-2" aria-live="polite">
            <GlossedWords
              question={gloss.question}
              glosses={gloss.result.glosses}
              rebound={{ question: gloss.question, follows, terms, onMeant: setTerms }}
            />
            <p className={`mt-1 ${readable(gloss.result.status) ? "text-soft" : "text-caution"}`}>
              {readable(gloss.result.status) && <b className="font-semibold text-ink">Would be read as </b>}
              {gloss.result.reading}
            </p>
          </div>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-2">
          {brief && (
            <Button disabled={busy} onClick={() => send(true)}>
              Ask all {asked.length}
              <Key>Enter</Key>
            </Button>
          )}
          {brief && (
            <Button disabled={busy} onClick={() => onAsk(text.trim(), null, terms)}>
              As one question
            </Button>
          )}
          {answer && !brief && (
            <Button disabled={busy || !text.trim()} onClick={() => send(false)}>
              Follow on<Key>Enter</Key>
            </Button>
          )}
          {!brief && (
            <Button disabled={busy || !text.trim()} onClick={() => send(true)}>
              {answer ? "Ask afresh" : "Ask"}
              <Key>{answer ? "⇧Enter" : "Enter"}</Key>
            </Button>
          )}
          {busy && <Button onClick={onStop}>Stop</Button>}
          {busy && (
            <span role="status" className="text-soft">
              {progress ? `Working out ${progress.done + 1} of ${progress.of}…` : "Working it out…"} {told}
            </span>
          )}
          {!busy && answer && !text && (
            <span className="text-soft">
              A follow-up changes this question: “only this year”, “by month instead”, “as a share”.
            </span>
          )}
        </div>
      </div>
    </div>
  );
}

const goesOn = ({ text: words, start }: Completion, text: string) => {
  const begun = text.slice(start).toLowerCase();
  return words.length > begun.length && words.toLowerCase().startsWith(begun);
};

type Glossed = { question: string; result: GlossResult };

/** What the words would be read as: asked at the first key, and again of what is there by then when that is told. */
function useGloss(text: string, follows: number | null, terms: Term[]): Glossed | null {
  const [gloss, setGloss] = useState<Glossed | null>(null);
  const line = useRef<{ next: (() => Promise<void>) | null; busy: boolean }>({ next: null, busy: false });
  const gone = useRef<AbortController>(null);
  useEffect(() => {
    gone.current = new AbortController();
    return () => gone.current?.abort();
  }, []);
  useEffect(() => {
    const question = text.trimEnd();
    const { signal } = gone.current ?? new AbortController();
    const ask = () =>
      api.gloss(question, follows, terms, signal).then(
        (result) => setGloss({ question, result }),
        // The gloss is a help while typing; asking itself tells of any fault of the server.
        () => undefined,
      );
    line.current.next = question.trim() ? ask : null;
    const go = async () => {
      line.current.busy = true;
      for (let next = line.current.next; next; next = line.current.next) {
        line.current.next = null;
        await next();
      }
      line.current.busy = false;
    };
    if (!line.current.busy) void go();
  }, [text, follows, terms]);
  return text.trim() ? gloss : null;
}

/** Whether a question of that status gets something to see, and no refusal. */
const readable = (status: string): boolean => status === "answered" || status === "told";
