/** Beside the words: what was learned from people, and what nothing here is called. */
import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import { plural } from "../../ui/format";
import { Heading, Link, ProblemNote } from "../../ui/primitives";
import { useChange } from "../ask/changing";

const SAID = { chosen: "chosen as", right: "called right as", wrong: "is not" } as const;

export function Learned({ onDefine }: { onDefine: (word: string) => void }) {
  const lessons = useQuery({ queryKey: ["lessons"], queryFn: api.lessons });
  const unread = useQuery({ queryKey: ["unread"], queryFn: api.unread });
  const forget = useChange(api.forget, "lessons");
  const held = [...(lessons.data ?? [])].reverse();
  return (
    <>
      <Heading>Unread of late</Heading>
      {unread.isError && <ProblemNote error={unread.error} again={() => void unread.refetch()} />}
      {unread.data?.length === 0 && <p className="mt-1 text-soft">Every word of the latest questions was used.</p>}
      <ul className="mt-1">
        {(unread.data ?? []).map(({ word, questions, question }) => (
          <li key={word} className="flex items-baseline gap-2 border-b border-rule py-1.5">
            <span className="read-unread font-serif text-base leading-5" title={question}>
              {word}
            </span>
            <span className="text-soft">in {plural(questions, "question")}</span>
            <Link className="ml-auto" onClick={() => onDefine(word)}>
              define
            </Link>
          </li>
        ))}
      </ul>
      <div className="mt-6">
        <Heading>Learned from people here</Heading>
      </div>
      {lessons.isError && <ProblemNote error={lessons.error} again={() => void lessons.refetch()} />}
      {held.length === 0 && (
        <p className="mt-1 text-soft">What people choose, and what they call right or wrong, is listed here.</p>
      )}
      <ul className="mt-1">
        {held.map((lesson) => (
          <li key={lesson.id} className="border-b border-rule py-1.5">
            “{lesson.question}”{" "}
            <span className="text-soft">
              {SAID[lesson.kind]} {lesson.reading}
              {lesson.because && `, because ${lesson.because}`}
            </span>{" "}
            · <Link onClick={() => forget.mutate(lesson.id)}>forget</Link>
          </li>
        ))}
      </ul>
      {forget.isError && <ProblemNote error={forget.error} />}
    </>
  );
}
