/** What makes a file easy to ask about, with the workspace's own tables marked against it. */
import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import { go } from "../../ui/location";
import { Busy, Link, ProblemNote } from "../../ui/primitives";

const WHY: Record<string, string> = {
  "One header row, then rows":
    "A name above each column, in one row, and nothing above it. Titles and notes belong beside the data, not in it.",
  "No totals among the rows": "A total is worked out when it is asked for. Kept among the rows it is counted twice.",
  "One row for one thing":
    "One visit, one sale, one day a row. Months or years side by side are better one below the other.",
  "Something that tells rows apart":
    "A number or code of its own for each row, so that two alike are two and not one by mistake.",
  "Dates that can be read one way": "2026-03-05 is the fifth of March everywhere. 05/03/2026 is not.",
  "Names that say what they mean":
    "“amount_net” is clear, “zk_w2” is not. A word typed in once helps every question after.",
  "One unit to a column": "Pounds beside euros, or grams beside kilograms, cannot be added up.",
  "Few gaps": "A column that is mostly empty says little, and every average of it speaks for few rows.",
  "Joined to the rest": "The same codes in two tables let a question use both.",
};

export function GuideRoom() {
  const guide = useQuery({ queryKey: ["guide"], queryFn: api.guide });
  if (guide.isError) return <ProblemNote error={guide.error} />;
  if (!guide.data) return <Busy>Marking the tables…</Busy>;
  const tables = Object.entries(guide.data.tables);
  const names = tables[0]?.[1].map((m) => m.name) ?? Object.keys(WHY);
  return (
    <section className="col-span-2 overflow-y-auto px-8 py-5" aria-label="Guide">
      <h1 className="font-serif text-2xl font-medium">What makes a file easy to ask about</h1>
      <p className="mt-1 max-w-2xl text-soft">
        Gumption reads files as they are. The closer one is to this, the less has to be guessed, and the more of its
        answers need no second look. Your own tables are marked against it.
      </p>
      <ol className="mt-4 max-w-5xl">
        {names.map((name) => (
          <li key={name} className="grid grid-cols-[19rem_1fr] gap-6 border-t border-rule py-3">
            <div>
              <h2 className="font-semibold">{name}</h2>
              <p className="text-soft">{WHY[name]}</p>
            </div>
            <ul className="self-start">
              {tables.map(([table, marks]) => {
                const mark = marks.find((m) => m.name === name);
                if (!mark || mark.holds) return null;
                return (
                  <li key={table} className="flex gap-2">
                    <span aria-hidden className="text-caution">
                      !
                    </span>
                    <span className="sr-only">Caution: </span>
                    <span>
                      <Link onClick={() => go.table(table)}>{table}</Link> {mark.words}
                    </span>
                  </li>
                );
              })}
              <Holding
                tables={tables.filter(([, marks]) => marks.find((m) => m.name === name)?.holds).map(([t]) => t)}
                all={tables.length}
              />
            </ul>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Holding({ tables, all }: { tables: string[]; all: number }) {
  if (tables.length === 0) return null;
  return (
    <li className="flex gap-2">
      <span aria-hidden className="text-holds">
        ✓
      </span>
      <span className="sr-only">Holds: </span>
      <span className="text-soft">
        {tables.length === all ? (all === 1 ? "Your table does" : `All ${all} tables do`) : tables.join(", ")}
      </span>
    </li>
  );
}
