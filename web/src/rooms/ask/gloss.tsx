/** A question's words, each with a line below whose shape says what it was read as. */
import type { Gloss } from "../../api/client";
import { WordChoice, type Rebound } from "./words";

type Piece = { text: string; gloss: Gloss | null };

/** The question cut into glossed spans and the words between them. */
export function pieces(question: string, glosses: Gloss[]): Piece[] {
  const found: Piece[] = [];
  let at = 0;
  for (const gloss of glosses) {
    if (gloss.start < at) continue;
    found.push(...plain(question.slice(at, gloss.start)), { text: question.slice(gloss.start, gloss.end), gloss });
    at = gloss.end;
  }
  return [...found, ...plain(question.slice(at))];
}

const plain = (text: string): Piece[] =>
  text
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => ({ text: word, gloss: null }));

export function GlossedWords({
  question,
  glosses,
  rebound,
  large = false,
}: {
  question: string;
  glosses: Gloss[];
  rebound?: Rebound;
  large?: boolean;
}) {
  return (
    <span className="flex flex-wrap items-start gap-x-2.5 gap-y-1.5">
      {pieces(question, glosses).map(({ text, gloss }, i) => (
        <span key={i} className="inline-block max-w-full">
          {gloss && rebound ? (
            <WordChoice rebound={rebound} start={gloss.start} end={gloss.end}>
              <Word text={text} gloss={gloss} large={large} />
            </WordChoice>
          ) : (
            <Word text={text} gloss={gloss} large={large} />
          )}
        </span>
      ))}
    </span>
  );
}

const Word = ({ text, gloss, large }: Piece & { large: boolean }) => (
  <>
    <span
      className={`block w-fit font-serif leading-tight ${large ? "text-[25px]" : "text-base"} ${gloss ? `read-${gloss.kind}` : "text-soft"}`}
    >
      {text}
    </span>
    {gloss && !(gloss.kind === "operation" && gloss.note === text.toLowerCase()) && (
      <span
        className={`block max-w-[230px] truncate pt-0.5 text-[11px] leading-snug ${gloss.kind === "unread" ? "text-stop" : gloss.kind === "operation" ? "text-soft" : "text-pen"}`}
        title={gloss.note}
      >
        {gloss.note}
      </span>
    )}
  </>
);
