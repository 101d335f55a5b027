/** The house's own words: what each means, what it comes to, and which answers go by it. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Defined, type Term, type TermKind, type Workspace } from "../../api/client";
import { plural } from "../../ui/format";
import { go, NEW_WORD } from "../../ui/location";
import { Heading, Link, PickFiles, ProblemNote, SearchField } from "../../ui/primitives";
import { useChange } from "../ask/changing";
import { Learned } from "./learned";
import { WordEditor } from "./word";

const SECTIONS: readonly (readonly [TermKind, string])[] = [
  ["other name", "Other names"],
  ["measure", "Measures"],
  ["condition", "Conditions"],
  ["columns", "Sets of columns"],
  ["left out", "Left out"],
];

const EMPTY: Term = { words: [""], table: "", column: "", value: "", text: "", note: "", id: 0 };

export function GlossaryRoom({
  workspace,
  word,
  text,
}: {
  workspace: Workspace;
  word: string | null;
  text: string | null;
}) {
  const terms = useQuery({ queryKey: ["terms"], queryFn: api.terms });
  const kinds = useQuery({ queryKey: ["kinds", terms.data], queryFn: api.kindsOfTerms, enabled: !!terms.data?.length });
  const [sought, setSought] = useState("");
  // Another new word begins with nothing, also where one was begun and not saved.
  const [begins, setBegins] = useState(0);
  const all = terms.data ?? [];
  const chosen = all.find(({ term }) => term.words[0] === word);
  const begun = word?.startsWith(NEW_WORD) ? word.slice(NEW_WORD.length) : null;
  const shown = chosen ?? (begun === null && word === null ? all[0] : undefined);
  const kindOf = ({ term }: Defined): TermKind =>
    kinds.data?.[term.id]?.kind ?? (term.text ? "measure" : term.table ? "other name" : "left out");
  const fits = ({ term, meaning }: Defined) =>
    `${term.words.join(" ")} ${meaning}`.toLowerCase().includes(sought.trim().toLowerCase());
  return (
    <div className="room">
      <aside className="overflow-y-auto border-r border-rule bg-desk py-4" aria-label="Words">
        <div className="flex items-baseline justify-between px-3.5">
          <Heading>{plural(all.length, "word")}</Heading>
          <Link
            className="text-xs"
            onClick={() => {
              setBegins(begins + 1);
              go.newWord("");
            }}
          >
            New word
          </Link>
        </div>
        <p className="px-3.5 pt-2">
          <SearchField label="Find a word or a meaning" value={sought} onChange={setSought} />
        </p>
        {terms.isError && (
          <div className="p-3.5">
            <ProblemNote error={terms.error} again={() => void terms.refetch()} />
          </div>
        )}
        {SECTIONS.map(([kind, title]) => {
          const here = all.filter((t) => kindOf(t) === kind && fits(t));
          if (here.length === 0) return null;
          return (
            <section key={kind} className="pt-4">
              <div className="flex justify-between px-3.5">
                <Heading>{title}</Heading>
                <span className="text-xs text-soft">{here.length}</span>
              </div>
              <ul className="mt-1">
                {here.map(({ term, meaning }) => (
                  <li key={term.id}>
                    <button
                      type="button"
                      aria-current={shown?.term.id === term.id ? "true" : undefined}
                      onClick={() => go.glossary(term.words[0])}
                      className={`flex w-full items-baseline justify-between gap-2 border-l-2 py-1 pl-3 pr-3 text-left ${shown?.term.id === term.id ? "border-pen bg-paper font-semibold" : "border-transparent hover:bg-band"}`}
                    >
                      <span className="min-w-0 truncate">{term.words.join(", ")}</span>
                      <span className="max-w-24 shrink-0 truncate text-xs font-normal text-soft">
                        {kinds.data?.[term.id]?.value || (term.text ? "" : meaning)}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
        <InAndOut empty={all.length === 0} />
      </aside>
      {begun !== null || (word !== null && terms.data && !chosen) ? (
        <WordEditor
          key={`new ${word} ${begins}`}
          saved={null}
          start={{ ...EMPTY, words: [begun ?? word ?? ""], text: text ?? "" }}
          workspace={workspace}
        />
      ) : shown ? (
        <WordEditor key={shown.term.id} saved={shown.term} start={shown.term} workspace={workspace} />
      ) : (
        <section className="p-10" aria-label="A word">
          <h1 className="font-serif text-2xl">This house’s own words</h1>
          <p className="mt-2 max-w-md text-soft">
            Say here what people call things: <i className="font-serif text-base text-ink">takings</i> for a column,{" "}
            <i className="font-serif text-base text-ink">margin</i> for fee net minus cost,{" "}
            <i className="font-serif text-base text-ink">long wait</i> for a visit whose wait is over 40 minutes.
            Questions may use them from then on.
          </p>
          <p className="mt-3">
            <Link onClick={() => go.newWord("")}>Make the first word</Link>
          </p>
        </section>
      )}
      <aside className="overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="Learned and unread">
        <Learned onDefine={(unread) => go.newWord(unread)} />
      </aside>
    </div>
  );
}

function InAndOut({ empty }: { empty: boolean }) {
  const take = useChange(api.takeTerms, "terms");
  return (
    <p className="px-3.5 pt-5 text-xs text-soft">
      {!empty && (
        <>
          <a className="text-pen underline underline-offset-2" href={api.termsFile()} download>
            Save as CSV
          </a>{" "}
          ·{" "}
        </>
      )}
      <PickFiles label="A list of words" accept=".csv" onPick={([file]) => file && take.mutate(file)}>
        Bring in a CSV
      </PickFiles>
      {take.isError && <ProblemNote error={take.error} />}
    </p>
  );
}
