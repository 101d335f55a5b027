/** A walk of five steps through the demo, for somebody who is here for the first time. */
import { useEffect, useState, useSyncExternalStore } from "react";
import { api, shelf } from "../api/client";
import { go } from "./location";
import { Button, Link, ProblemNote } from "./primitives";

const QUESTION = "top five clinics by income this year";

/** The answer that the walk goes by, once it was asked for. */
let asked: number | null = null;

type Stop = { title: string; words: string; at: string; arrive: () => Promise<void> | void };

const STOPS: readonly Stop[] = [
  {
    title: "What was found in a file",
    words:
      "Every file is looked through when it comes in. What was cleaned or looks odd stands here, and each act can be undone.",
    at: "aside[aria-label='What was found']",
    arrive: () => go.table("visits"),
  },
  {
    title: "Ask in plain words",
    words: `Type a question as you would say it. The next step asks “${QUESTION}”.`,
    at: "#question",
    arrive: () => go.ask(),
  },
  {
    title: "How each word was read",
    words:
      "Under each word stands what it was taken for. Click one to see what else it could mean; the answer follows at once.",
    at: "section[aria-label='Question and answer'] [data-word]",
    arrive: async () => {
      // Who goes back sees the answer of before, and does not ask again.
      asked ??= (await api.ask(QUESTION, null, crypto.randomUUID())).id;
      go.entry(asked);
    },
  },
  {
    title: "The proof",
    words:
      "Each step with the rows that went through it, the checks that were made, and the code. Click a step to see its rows, or to change it.",
    at: "aside[aria-label='Proof']",
    arrive: () => undefined,
  },
  {
    title: "Go on from here",
    words:
      "A follow-up such as “only dogs” goes on from the answer. Words of your own house go into the Glossary, and your own files into a workspace of their own.",
    at: "nav[aria-label='Rooms']",
    arrive: () => undefined,
  },
];

let at: number | null = null;
const listeners = new Set<() => void>();
const move = (to: number | null) => {
  at = to;
  listeners.forEach((listener) => listener());
};
const subscribe = (changed: () => void) => {
  listeners.add(changed);
  return () => void listeners.delete(changed);
};

/** Into the demo, which is made where there is none, and on to the first step. */
export async function beginTour(): Promise<void> {
  const demo = (await shelf.all()).find((w) => w.demo && !w.archived) ?? (await shelf.demo());
  asked = null;
  go.into(demo.id, "tables");
  move(0);
}

export function Tour() {
  const step = useSyncExternalStore(subscribe, () => at);
  const [failed, setFailed] = useState<unknown>(null);
  const stop = step === null ? undefined : STOPS[step];
  useEffect(() => {
    if (!stop) return;
    Promise.resolve()
      .then(() => stop.arrive())
      .then(() => setFailed(null), setFailed);
  }, [stop]);
  const box = useBox(stop?.at);
  if (!stop || step === null) return null;
  const last = step === STOPS.length - 1;
  return (
    <>
      {box && (
        <div
          aria-hidden
          className="pointer-events-none fixed z-40 rounded border-2 border-pen"
          style={{ left: box.left - 4, top: box.top - 4, width: box.width + 8, height: box.height + 8 }}
        />
      )}
      <section
        aria-label="A walk through the demo"
        className="fixed bottom-5 left-1/2 z-50 w-[min(440px,94vw)] -translate-x-1/2 rounded border border-rule bg-paper p-4 shadow-lg"
        role="status"
      >
        <p className="flex items-baseline justify-between gap-3">
          <b className="font-serif text-lg font-medium">{stop.title}</b>
          <span className="text-xs text-soft">
            {step + 1} of {STOPS.length}
          </span>
        </p>
        <p className="mt-1">{stop.words}</p>
        {failed != null && <ProblemNote error={failed} />}
        <div className="mt-3 flex items-center gap-2">
          {step > 0 && <Button onClick={() => move(step - 1)}>Back</Button>}
          {!last && <Button onClick={() => move(step + 1)}>Next</Button>}
          {last && (
            <Button
              onClick={() => {
                move(null);
                go.workspaces();
              }}
            >
              Bring in my own files
            </Button>
          )}
          <Link className="ml-auto text-soft" onClick={() => move(null)}>
            {last ? "Stay here" : "End the walk"}
          </Link>
        </div>
      </section>
    </>
  );
}

/** Where the first element of that kind stands on the page, as long as it is looked for. */
function useBox(selector: string | undefined): DOMRect | null {
  const [box, setBox] = useState<DOMRect | null>(null);
  useEffect(() => {
    const look = () => {
      const found = selector ? document.querySelector(selector)?.getBoundingClientRect() : undefined;
      setBox((b) =>
        found && b && found.left === b.left && found.top === b.top && found.height === b.height ? b : (found ?? null),
      );
    };
    const timer = setInterval(look, 250);
    return () => clearInterval(timer);
  }, [selector]);
  return selector ? box : null;
}
