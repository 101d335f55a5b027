/** What words of a question mean: a click on them opens what else they could, or says it in other words. */
import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState, type KeyboardEvent, type ReactNode } from "react";
import { api, type Answered, type Defined, type Term } from "../../api/client";
import { go } from "../../ui/location";
import { Busy, Key, Link, ProblemNote } from "../../ui/primitives";
import { useChange } from "./changing";

/** A question whose words can be given another meaning; `terms` are those that a person gave it already. */
export type Rebound = { question: string; follows: number | null; terms: Term[]; onMeant: (terms: Term[]) => void };

/** The terms with one more, in place of what the same words meant before. */
export const withTerm = (terms: Term[], term: Term): Term[] => [...terms.filter((t) => !sameWords(t, term)), term];

const sameWords = (one: Term, other: Term): boolean => one.words[0]?.toLowerCase() === other.words[0]?.toLowerCase();

export function WordChoice({
  rebound,
  start,
  end,
  children,
}: {
  rebound: Rebound;
  start: number;
  end: number;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const words = rebound.question.slice(start, end).split(/\s+/).join(" ");
  const take = (term: Term) => {
    setOpen(false);
    rebound.onMeant(withTerm(rebound.terms, term));
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          data-word
          className="block rounded-sm text-left hover:bg-band data-[state=open]:bg-band"
          title={`What “${words}” means`}
        >
          {children}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          onOpenAutoFocus={(e) => {
            e.preventDefault();
            if (e.target instanceof HTMLElement) e.target.focus();
          }}
          align="start"
          sideOffset={6}
          collisionPadding={12}
          className="z-20 w-[380px] border border-rule bg-paper shadow-lg outline-none"
          data-testid="meanings"
          onKeyDown={walk}
        >
          <Meanings rebound={rebound} words={words} start={start} end={end} onTake={take} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Meanings({
  rebound,
  words,
  start,
  end,
  onTake,
}: {
  rebound: Rebound;
  words: string;
  start: number;
  end: number;
  onTake: (term: Term) => void;
}) {
  const { question, follows, terms } = rebound;
  const options = useQuery({
    queryKey: ["words", question, follows, terms, start, end],
    queryFn: () => api.words(question, follows, terms, start, end),
  });
  const [said, setSaid] = useState("");
  return (
    <>
      <p className="flex justify-between border-b border-rule px-3 py-1.5 text-soft">
        <span>“{words}” is to mean</span>
        <Key>↑↓ Enter</Key>
      </p>
      {options.isPending && (
        <div className="px-3 py-2">
          <Busy>Looking…</Busy>
        </div>
      )}
      {options.isError && (
        <div className="px-3 py-2">
          <ProblemNote error={options.error} again={() => void options.refetch()} />
        </div>
      )}
      <ul>
        {(options.data ?? []).map(({ term, meaning, note }) => (
          <li key={meaning} className="border-b border-rule">
            <button
              type="button"
              data-meaning
              className="flex w-full items-baseline justify-between gap-4 px-3 py-1.5 text-left hover:bg-band focus:bg-band focus:outline-none"
              onClick={() => onTake(term)}
            >
              <span className="shrink-0">{leftOut(term) ? "leave this out" : meaning}</span>
              <span className="truncate text-soft">{leftOut(term) ? "" : note}</span>
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex items-baseline gap-2 px-3 py-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (said.trim())
            onTake({ words: [words], table: "", column: "", value: "", text: said.trim(), note: "", id: 0 });
        }}
      >
        <label className="shrink-0 text-soft" htmlFor="in-other-words">
          in other words
        </label>
        <input
          id="in-other-words"
          value={said}
          onChange={(e) => setSaid(e.target.value)}
          placeholder="such as price times quantity"
          className="min-w-0 grow border-b border-rule bg-transparent font-serif text-base outline-none placeholder:text-soft focus:border-pen"
        />
      </form>
      <p className="border-t border-rule px-3 py-1.5">
        <Link onClick={() => go.newWord(words, said.trim())}>Define it in the glossary …</Link>
      </p>
    </>
  );
}

/** To the next word (1), or the one before (-1), that can be given another meaning. */
export function alongWords(by: -1 | 1): void {
  const words = [...document.querySelectorAll<HTMLElement>("[data-word]")];
  const at = words.findIndex((word) => word === document.activeElement);
  const next = at < 0 ? (by > 0 ? 0 : words.length - 1) : (at + by + words.length) % words.length;
  words[next]?.focus();
}

/** Up and down go through the meanings and the field below them. */
function walk(event: KeyboardEvent<HTMLDivElement>): void {
  const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
  if (step === 0) return;
  event.preventDefault();
  const stops = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-meaning], input")];
  const at = stops.findIndex((stop) => stop === document.activeElement);
  stops[at < 0 && step < 0 ? stops.length - 1 : (at + step + stops.length) % stops.length]?.focus();
}

const leftOut = (term: Term): boolean => !term.table && !term.text;

/** The words of the house's own that an answer goes by: each can be kept, or taken back. */
export function TermsUsed({ answer, onMeant }: { answer: Answered; onMeant: (terms: Term[]) => void }) {
  const keep = useChange(api.define, "terms");
  const own = answer.terms.filter(({ term }) => term.id === 0).map(({ term }) => term);
  if (answer.terms.length === 0) return null;
  return (
    <div className="mt-1 text-soft" data-testid="terms-used">
      {answer.terms.map(({ term, meaning }) => (
        <p key={term.words[0]}>
          “{term.words[0]}” is {leftOut(term) ? "left out" : <span className="text-pen">{meaning}</span>}
          {term.id > 0
            ? ", as this house says."
            : keep.data?.term.words[0] === term.words[0]
              ? ", and is from now on."
              : ", as you said. "}
          {term.id === 0 && keep.data?.term.words[0] !== term.words[0] && (
            <>
              <Link onClick={() => keep.mutate(term)}>Remember it</Link> ·{" "}
              <Link onClick={() => onMeant(own.filter((t) => t !== term))}>Take it back</Link>
            </>
          )}
        </p>
      ))}
      {keep.isError && <ProblemNote error={keep.error} />}
    </div>
  );
}

/** All words of the house's own, each to be forgotten by a click. */
export function TermsHere({ terms }: { terms: Defined[] }) {
  const forget = useChange(api.undefine, "terms");
  return (
    <>
      {terms.map(({ term, meaning }) => (
        <li key={term.id}>
          “{term.words.join("”, “")}”{" "}
          <span className="text-soft">{leftOut(term) ? "is left out" : `is ${meaning}`}</span> ·{" "}
          <Link onClick={() => forget.mutate(term.id)}>forget</Link>
        </li>
      ))}
      {forget.isError && <ProblemNote error={forget.error} />}
    </>
  );
}
