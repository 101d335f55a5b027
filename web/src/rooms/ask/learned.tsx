/** What this workspace learned of the words asked with, and whether the answer was right. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Answer, type Answered, type Lesson } from "../../api/client";
import { Button, Heading, Link, ProblemNote } from "../../ui/primitives";
import { go } from "../../ui/location";
import { useChange } from "./changing";
import { TermsHere } from "./words";

const SAID: Record<Lesson["kind"], [string, string]> = {
  chosen: ["is", ", as was chosen"],
  right: ["is", ", as was called right"],
  wrong: ["is not", ""],
};

/* Words, and wordings, that are told of beside an answer; all of them are in the glossary. */
const FEW = 3;

export function Learned({ answer }: { answer: Answer | undefined }) {
  const lessons = useQuery({ queryKey: ["lessons"], queryFn: api.lessons });
  const forget = useChange(api.forget, "lessons");
  const own = answer?.status === "answered" ? answer.lesson?.id : undefined;
  const sorted = [...(lessons.data ?? [])].sort((a, b) => Number(b.id === own) - Number(a.id === own) || b.id - a.id);
  const terms = useQuery({ queryKey: ["terms"], queryFn: api.terms });
  const used = new Set(answer?.status === "answered" ? answer.terms.map(({ term }) => term.id) : []);
  const words = [...(terms.data ?? [])].sort((a, b) => Number(used.has(b.term.id)) - Number(used.has(a.term.id)));
  if (sorted.length === 0 && words.length === 0 && !lessons.isError && !terms.isError) return null;
  const more = Math.max(0, words.length - FEW) + Math.max(0, sorted.length - FEW);
  return (
    <>
      <hr className="my-4 border-rule" />
      <Heading>Learned here</Heading>
      {lessons.isError && <ProblemNote error={lessons.error} again={() => void lessons.refetch()} />}
      {terms.isError && <ProblemNote error={terms.error} again={() => void terms.refetch()} />}
      <ul className="mt-2 space-y-2" data-testid="lessons">
        <TermsHere terms={words.slice(0, FEW)} />
        {sorted.slice(0, FEW).map((lesson) => (
          <li key={lesson.id} className={lesson.id === own ? "border-l-2 border-pen pl-2" : ""}>
            “{lesson.question}”{" "}
            <span className="text-soft">
              {SAID[lesson.kind][0]} {lesson.reading}
              {SAID[lesson.kind][1]}
              {lesson.because && `, because ${lesson.because}`}
            </span>{" "}
            · <Link onClick={() => forget.mutate(lesson.id)}>forget</Link>
          </li>
        ))}
      </ul>
      {more > 0 && (
        <p className="mt-1 text-soft">
          and {more} more in the <Link onClick={() => go.glossary()}>glossary</Link>
        </p>
      )}
      {forget.isError && <ProblemNote error={forget.error} />}
    </>
  );
}

/** Whether this was what was meant: one word from the person, which the same wording goes by from then on. */
export function Marks({ answer }: { answer: Answered }) {
  const client = useQueryClient();
  const mark = useMutation({
    mutationFn: (said: { right: boolean; because?: string }) => api.mark(answer.id, said.right, said.because),
    onSuccess: () => void client.invalidateQueries({ queryKey: ["lessons"] }),
  });
  const [because, setBecause] = useState("");
  const own = answer.lesson?.question === answer.question ? answer.lesson : undefined;
  const said = mark.data ?? own;
  return (
    <span className="ml-auto flex flex-wrap items-center gap-2 text-soft" data-testid="marks">
      {mark.isError ? (
        <ProblemNote error={mark.error} />
      ) : said === undefined ? (
        "Is this what you meant?"
      ) : said.kind === "wrong" ? (
        `Noted: this was not meant${said.because ? `, because ${said.because}` : ""}.`
      ) : (
        "Noted: this was meant."
      )}
      {said?.kind !== "right" && said?.kind !== "chosen" && (
        <Link onClick={() => mark.mutate({ right: true })}>Yes</Link>
      )}
      {said?.kind !== "wrong" && <Link onClick={() => mark.mutate({ right: false })}>No</Link>}
      {said?.kind === "wrong" && !said.because && (
        <form
          className="flex items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (because.trim()) mark.mutate({ right: false, because: because.trim() });
          }}
        >
          <label>
            because{" "}
            <input
              value={because}
              maxLength={1000}
              onChange={(e) => setBecause(e.target.value)}
              className="w-56 border-b border-rule bg-transparent text-ink outline-none focus:border-pen"
            />
          </label>
          <Button type="submit" className="text-xs" disabled={!because.trim()}>
            Note it
          </Button>
        </form>
      )}
    </span>
  );
}
