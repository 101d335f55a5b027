/** What is written between answers: texts in Markdown, and headings. */
import { useState } from "react";
import { api, type FolioPage, type Part } from "../../api/client";
import { go } from "../../ui/location";
import { Link, ProblemNote } from "../../ui/primitives";
import { placeOfPart } from "./parts-list";
import { usePageChange } from "./use-page";

type Props = { page: FolioPage; part: Part; fixed: boolean };

/** A field for a text that is kept when a person leaves it, so that nothing typed is lost. */
function Writing({
  label,
  start,
  lines,
  onKeep,
  onLeave,
}: {
  label: string;
  start: string;
  lines: number;
  onKeep: (text: string) => void;
  onLeave: () => void;
}) {
  const [text, setText] = useState(start);
  return (
    <textarea
      aria-label={label}
      placeholder={label}
      rows={Math.max(lines, text.split("\n").length)}
      value={text}
      ref={(field) => {
        if (field && document.activeElement !== field && document.activeElement === document.body) field.focus();
      }}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => (text.trim() && text !== start ? onKeep(text) : onLeave())}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          setText(start);
          onLeave();
        }
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey || lines === 1)) {
          e.preventDefault();
          e.currentTarget.blur();
        }
      }}
      className="block w-full resize-none border-b border-pen bg-transparent py-1 font-serif text-lg outline-none"
    />
  );
}

/** A text, or a heading: as it is read, and as it is written. */
export function WrittenPart({ page, part, fixed }: Props) {
  const [writing, setWriting] = useState(false);
  const heading = part.kind === "heading";
  const change = usePageChange(
    (text: string) => api.changePart(page.id, part.id, { text, unwatch: false }),
    () => setWriting(false),
  );
  return (
    <section
      id={placeOfPart(part.id)}
      aria-label={heading ? part.text : "Text"}
      className={`group ${heading ? "mt-8" : "mt-5"}`}
    >
      {writing ? (
        <Writing
          label={heading ? "Heading" : "Write here, in Markdown"}
          start={part.text}
          lines={heading ? 1 : 3}
          onKeep={(text) => change.mutate(text)}
          onLeave={() => setWriting(false)}
        />
      ) : (
        <div className="flex items-baseline gap-4">
          {heading ? (
            <h2 className="min-w-0 flex-1 font-serif text-2xl font-medium">{part.text}</h2>
          ) : (
            // The server made it of Markdown in which no tag is a person's own.
            <div className="written min-w-0 flex-1" dangerouslySetInnerHTML={{ __html: part.html }} />
          )}
          {!fixed && <Acts page={page} part={part} onChange={() => setWriting(true)} />}
        </div>
      )}
      {change.isError && <ProblemNote error={change.error} />}
    </section>
  );
}

/** What can be done with a text, in sight where a person is. */
function Acts({ page, part, onChange }: { page: FolioPage; part: Part; onChange: () => void }) {
  const drop = usePageChange(() => api.dropPart(page.id, part.id));
  return (
    <p className="flex shrink-0 gap-3 text-xs opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 [@media(hover:none)]:opacity-100">
      <Link onClick={onChange}>change</Link>
      <Link className="text-soft" onClick={() => drop.mutate(undefined)}>
        take off
      </Link>
      {drop.isError && <ProblemNote error={drop.error} />}
    </p>
  );
}

/** The place at the end of a page where something is put on it. */
export function NewPart({ page }: { page: FolioPage }) {
  const [writing, setWriting] = useState<"text" | "heading" | null>(null);
  const put = usePageChange(
    ({ kind, text }: { kind: "text" | "heading"; text: string }) =>
      api.putOnPage(page.id, { kind, text, beside: false, drawn: "" }),
    () => setWriting(null),
  );
  return (
    <section aria-label="Put something on the page" className="mt-8 border-b border-pen pb-1">
      {writing === null ? (
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <button
            type="button"
            className="min-w-0 flex-1 text-left font-serif text-lg text-soft"
            onClick={() => setWriting("text")}
          >
            Write here, in Markdown
          </button>
          <Link onClick={go.ask}>put an answer here</Link>
          <Link onClick={() => setWriting("heading")}>heading</Link>
        </div>
      ) : (
        <Writing
          key={writing}
          label={writing === "text" ? "Write here, in Markdown" : "Heading"}
          start=""
          lines={writing === "text" ? 3 : 1}
          onKeep={(text) => put.mutate({ kind: writing, text })}
          onLeave={() => setWriting(null)}
        />
      )}
      {put.isError && <ProblemNote error={put.error} />}
    </section>
  );
}
