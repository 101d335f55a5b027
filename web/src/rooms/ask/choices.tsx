/** A question asked back: which reading is meant, each with the answer that it would give. */
import { useEffect, useRef, useState } from "react";
import type { Asks } from "../../api/client";
import { Button, Heading, Key } from "../../ui/primitives";

export function Choices({
  answer,
  busy,
  onTake,
}: {
  answer: Asks;
  busy: boolean;
  onTake: (choice: number, remember: boolean) => void;
}) {
  const [at, setAt] = useState(0);
  const choices = answer.alternatives;
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => first.current?.focus(), []);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const field =
        event.target instanceof HTMLTextAreaElement || event.target instanceof HTMLInputElement ? event.target : null;
      const pressed = Number(event.key) - 1;
      if (field?.value || busy || !(pressed >= 0 && pressed < choices.length)) return;
      event.preventDefault();
      onTake(pressed, false);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [choices.length, busy, onTake]);
  return (
    <div className="mt-4 border-t border-rule pt-4" data-testid="choices">
      <p className="font-serif text-xl">{answer.problem}</p>
      <ol className="mt-3 border-b border-rule">
        {choices.map((choice, i) => (
          <li key={choice.choice} className="border-t border-rule">
            <button
              type="button"
              ref={i === 0 ? first : undefined}
              aria-pressed={i === at}
              onFocus={() => setAt(i)}
              onClick={() => setAt(i)}
              onDoubleClick={() => onTake(i, false)}
              className={`grid w-full grid-cols-[30px_minmax(0,1fr)] gap-1 py-2.5 pr-3 text-left ${i === at ? "border-l-[3px] border-pen bg-band pl-1.5" : "pl-[9px] hover:bg-band"}`}
            >
              <kbd className="mt-0.5 h-5 w-5 rounded border border-rule bg-paper text-center font-mono text-[11px] leading-[18px] text-soft">
                {i + 1}
              </kbd>
              <span className="min-w-0">
                <span className="block font-serif text-lg leading-snug first-letter:uppercase">{choice.reading}</span>
                <span className="mt-0.5 block text-soft">{choice.finding}</span>
              </span>
            </button>
          </li>
        ))}
      </ol>
      <div className="mt-3 flex items-center gap-3">
        <Button disabled={busy} onClick={() => onTake(at, false)}>
          Take it<Key>{at + 1}</Key>
        </Button>
        <Button disabled={busy} onClick={() => onTake(at, true)}>
          Take it, and remember for these words
        </Button>
      </div>
    </div>
  );
}

/** Beside the choices: why nothing is answered yet. */
export function NothingChosen({ answer }: { answer: Asks }) {
  return (
    <>
      <Heading>Proof</Heading>
      <p className="mt-2 text-soft">
        {answer.alternatives.length === 2 ? "Two readings fit" : "Several readings fit"} and their answers differ.
        Nothing is shown as the answer until one is chosen.
      </p>
    </>
  );
}
