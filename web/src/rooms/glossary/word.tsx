/** One word: what it is called, what it means, what that comes to, and what saving it would change. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Term, type TermLook, type Workspace } from "../../api/client";
import { Deletion } from "../../ui/deletion";
import { go } from "../../ui/location";
import { Button, Choose, Heading, Link, ProblemNote, TextField } from "../../ui/primitives";
import { Chart } from "../ask/chart";
import { GlossedWords } from "../ask/gloss";

const ABOUT: Record<TermLook["kind"], string> = {
  "other name": "Another name for what is in the tables.",
  measure: "A measure, worked out as it says.",
  condition: "A named condition: it keeps the rows that meet it.",
  columns: "A set of columns.",
  "left out": "A word that means nothing: questions are read without it.",
};

type Way = "named" | "said" | "out";
const WAYS: readonly (readonly [Way, string])[] = [
  ["said", "said by other words"],
  ["named", "a table, a column or a value"],
  ["out", "left out"],
];

const PAUSE = 350;

export function WordEditor({ saved, start, workspace }: { saved: Term | null; start: Term; workspace: Workspace }) {
  const client = useQueryClient();
  const [term, setTerm] = useState(start);
  const [others, setOthers] = useState(start.words.slice(1).join(", "));
  const [way, setWay] = useState<Way>(start.text || !saved ? "said" : start.table ? "named" : "out");
  const whole = made(term, others, way);
  const looked = useLook(whole);
  const refresh = async () => {
    await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== "workspace" && q.queryKey[0] !== "look" });
  };
  const save = useMutation({
    mutationFn: async () => {
      const kept = await api.define(whole);
      // Under another name it would otherwise stay beside the new one.
      if (saved && saved.words[0]?.toLowerCase() !== whole.words[0]?.toLowerCase()) await api.undefine(saved.id);
      return kept;
    },
    onSuccess: async (kept) => {
      await refresh();
      go.glossary(kept.term.words[0]);
    },
  });
  const changed =
    saved === null || JSON.stringify(whole) !== JSON.stringify(made(saved, saved.words.slice(1).join(", "), way));
  const look = looked.data;
  const ready = whole.words[0] !== "" && (way === "out" || whole.text !== "" || whole.table !== "");
  const uses = look?.uses ?? [];
  const differing = uses.filter((u) => u.before !== u.after);
  return (
    <section className="overflow-y-auto px-6 pb-10 pt-4" aria-label="A word">
      <div className="flex items-baseline gap-4">
        <h1 className="min-w-0 break-words font-serif text-2xl font-medium">{whole.words[0] || "A new word"}</h1>
        <span className="ml-auto flex shrink-0 gap-4">
          {saved && <Link onClick={() => go.draft(`${saved.words[0]} `)}>ask a question with it</Link>}
          {saved && (
            <Deletion
              trigger="delete"
              title={`Delete “${saved.words[0]}”?`}
              words="Questions are read without this meaning from then on."
              act={() => api.undefine(saved.id)}
              done={() => go.glossary()}
            />
          )}
        </span>
      </div>
      <p className="mt-1 text-soft">
        {look && ready && !look.problem ? ABOUT[look.kind] : "Whoever asks in this workspace can use its words."}
      </p>
      <div className="mt-4 grid grid-cols-[200px_minmax(0,1fr)] max-[820px]:grid-cols-1 gap-3">
        <TextField
          label="Word"
          value={term.words[0] ?? ""}
          maxLength={100}
          onChange={(e) => setTerm({ ...term, words: [e.target.value] })}
        />
        <TextField
          label="Other words for it, parted by commas"
          value={others}
          onChange={(e) => setOthers(e.target.value)}
        />
      </div>
      <div className="mt-3 grid grid-cols-[200px_minmax(0,1fr)] max-[820px]:grid-cols-1 gap-3">
        <Choose label="It is" value={way} options={WAYS} onChange={setWay} />
        {way === "said" && (
          <TextField
            label="What it means"
            value={term.text}
            maxLength={500}
            placeholder="a visit whose wait is over 40 minutes"
            onChange={(e) => setTerm({ ...term, text: e.target.value })}
          />
        )}
        {way === "named" && <Named term={term} workspace={workspace} onChange={setTerm} />}
      </div>
      {way === "said" && look && look.glosses.length > 0 && (
        <div className="mt-3">
          <GlossedWords question={whole.text} glosses={look.glosses} />
        </div>
      )}
      <TextField
        className="mt-3"
        label="Note, for people"
        value={term.note ?? ""}
        maxLength={500}
        onChange={(e) => setTerm({ ...term, note: e.target.value })}
      />
      {ready && look?.problem && <p className="mt-3 text-caution">{look.problem}</p>}
      {looked.isError && (
        <div className="mt-3">
          <ProblemNote error={looked.error} />
        </div>
      )}
      {ready && look && !look.problem && (look.value || look.share !== null) && (
        <div className="mt-5 border-t border-rule pt-4">
          <Heading>Over the data now</Heading>
          <p className="mt-1 font-mono text-3xl">
            {look.share != null ? `${(100 * look.share).toFixed(1)}%` : look.kind === "measure" ? look.value : ""}
          </p>
          {(look.share != null || look.kind !== "measure") && <p className="mt-1 text-soft">{look.value}</p>}
          {look.chart && <Chart spec={look.chart} label={`${whole.words[0]} by month`} />}
        </div>
      )}
      {look && look.clashes.length > 0 && (
        <ul className="mt-4 space-y-1">
          {look.clashes.map((clash) => (
            <li key={clash} className="text-caution">
              {clash}
            </li>
          ))}
        </ul>
      )}
      {uses.length > 0 && <Uses uses={uses} changed={changed} />}
      {save.isError && (
        <div className="mt-4">
          <ProblemNote error={save.error} />
        </div>
      )}
      <p className="mt-5 flex items-center gap-3">
        <Button
          className="border-ink font-medium"
          disabled={!ready || !changed || save.isPending || !!look?.problem}
          onClick={() => save.mutate()}
        >
          {differing.length > 0 && changed
            ? `Save, and change ${differing.length === 1 ? "one answer" : `${differing.length} answers`}`
            : "Save"}
        </Button>
        {saved && changed && (
          <Button
            onClick={() => {
              setTerm(saved);
              setOthers(saved.words.slice(1).join(", "));
              setWay(saved.text ? "said" : saved.table ? "named" : "out");
            }}
          >
            Put back as saved
          </Button>
        )}
        {save.isSuccess && !changed && <span className="text-soft">Saved.</span>}
      </p>
    </section>
  );
}

function Uses({ uses, changed }: { uses: TermLook["uses"]; changed: boolean }) {
  const differing = uses.filter((u) => u.before !== u.after).length;
  return (
    <div className="mt-5 border-t border-rule pt-4">
      <Heading>
        {`Used in ${uses.length === 1 ? "one question" : `${uses.length} questions`} of the trail`}
        {changed ? `; saving changes ${differing}` : ""}
      </Heading>
      <table className="mt-2 w-full border-collapse">
        <thead>
          <tr className="border-b border-ink text-left text-xs text-soft">
            <th className="py-1.5 pr-3 font-medium">question</th>
            <th className="py-1.5 pr-3 font-medium">as it is answered now</th>
            {changed && <th className="py-1.5 font-medium">after saving</th>}
          </tr>
        </thead>
        <tbody>
          {uses.map((use, i) => (
            <tr key={use.id} className={`align-top ${i % 2 ? "bg-band" : ""}`}>
              <td className="py-1.5 pr-3">
                <Link onClick={() => go.entry(use.id)}>{use.question}</Link>
              </td>
              <td className="py-1.5 pr-3 text-soft">{use.before}</td>
              {changed && (
                <td className={`py-1.5 ${use.before === use.after ? "text-soft" : "font-medium"}`}>
                  {use.before === use.after ? "stays" : use.after}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const ANY = "";

function Named({ term, workspace, onChange }: { term: Term; workspace: Workspace; onChange: (term: Term) => void }) {
  const table = workspace.tables.find((t) => t.table.name === term.table);
  return (
    <div className="grid grid-cols-3 gap-3">
      <Choose
        label="Table"
        value={term.table}
        options={[[ANY, "choose one"], ...workspace.tables.map((t) => [t.table.name, t.table.name] as const)]}
        onChange={(name) => onChange({ ...term, table: name, column: "", value: "" })}
      />
      <Choose
        label="Column"
        value={term.column}
        options={[[ANY, "the rows"], ...(table?.table.columns ?? []).map((c) => [c.name, c.name] as const)]}
        onChange={(name) => onChange({ ...term, column: name, value: "" })}
      />
      {term.column && (
        <TextField
          label="Value, if one is meant"
          value={term.value}
          onChange={(e) => onChange({ ...term, value: e.target.value })}
        />
      )}
    </div>
  );
}

/** The term as it would be kept: only what its way of meaning needs. */
function made(term: Term, others: string, way: Way): Term {
  const words = [term.words[0] ?? "", ...others.split(",")].map((w) => w.trim());
  const [first = "", ...more] = words;
  const bare = {
    words: [first, ...more.filter(Boolean)],
    table: "",
    column: "",
    value: "",
    text: "",
    note: (term.note ?? "").trim(),
    id: term.id,
  };
  if (way === "said") return { ...bare, text: term.text.trim() };
  return way === "named" ? { ...bare, table: term.table, column: term.column, value: term.value.trim() } : bare;
}

/** What the word would do, a moment after the last key. */
function useLook(term: Term) {
  const [settled, setSettled] = useState(term);
  const now = JSON.stringify(term);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(now) as Term), PAUSE);
    return () => clearTimeout(timer);
  }, [now]);
  return useQuery({
    queryKey: ["term-look", settled],
    queryFn: ({ signal }) => api.lookAt(settled, signal),
    enabled: settled.words[0] !== "",
    placeholderData: keepPreviousData,
  });
}
