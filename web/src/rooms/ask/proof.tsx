/** The proof: steps with the rows through each, the checks, and the code. */
import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import { api, type Answered, type Check, type Dialect, type Edit } from "../../api/client";
import { plural } from "../../ui/format";
import { Busy, Heading, Link, ProblemNote } from "../../ui/primitives";
import { Learned } from "./learned";
import { Steps } from "./steps";

/** The editor is large; it is fetched once it is wanted. */
const OwnSql = lazy(() => import("./own-sql").then(({ OwnSql: view }) => ({ default: view })));

export function ProofView({
  answer,
  onFollow,
  ...editing
}: {
  answer: Answered;
  onFollow: (question: string) => void;
  busy: boolean;
  problem: unknown;
  onEdit: (edit: Edit, done?: () => void) => void;
}) {
  return (
    <>
      <Steps answer={answer} {...editing} />
      {answer.study && (
        <ul className="mt-3 space-y-1 text-xs text-soft" aria-label="Method" data-testid="method">
          {answer.study.method.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      )}
      <hr className="my-4 border-rule" />
      <Heading>{checkTitle(answer.checks)}</Heading>
      <ul className="mt-2 space-y-1.5">
        {answer.checks.map((check, i) => (
          <CheckLine key={i} check={check} onCure={() => onFollow(check.cure)} />
        ))}
      </ul>
      <Learned answer={answer} />
      <hr className="my-4 border-rule" />
      <Code answer={answer} />
    </>
  );
}

const MARK: Record<Check["weight"], { sign: string; colour: string; word: string }> = {
  holds: { sign: "✓", colour: "text-holds", word: "Holds" },
  caution: { sign: "!", colour: "text-caution", word: "Caution" },
  stop: { sign: "✗", colour: "text-stop", word: "Stop" },
};

function checkTitle(checks: Check[]): string {
  const count = (weight: Check["weight"]) => checks.filter((c) => c.weight === weight).length;
  const parts = [`${count("holds")} hold`];
  if (count("caution")) parts.push(plural(count("caution"), "caution"));
  if (count("stop")) parts.push(plural(count("stop"), "stop"));
  return `Checks: ${parts.join(", ")}`;
}

function CheckLine({ check, onCure }: { check: Check; onCure: () => void }) {
  const mark = MARK[check.weight];
  return (
    <li className="flex gap-2.5">
      <span aria-hidden className={`w-3 font-semibold ${mark.colour}`}>
        {mark.sign}
      </span>
      <span>
        <span className="sr-only">{mark.word}: </span>
        {check.sentence}
        {check.detail && <small className="block text-soft">{check.detail}</small>}
        {check.cure && (
          <Link className="text-xs" onClick={onCure}>
            {check.cure}
          </Link>
        )}
      </span>
    </li>
  );
}

const DIALECTS: Record<Dialect, string> = {
  duckdb: "DuckDB",
  mariadb: "MariaDB",
  postgres: "PostgreSQL",
  spark: "Spark",
  ansi: "ANSI",
};

function Code({ answer }: { answer: Answered }) {
  const [dialect, setDialect] = useState<Dialect>("duckdb");
  const [editing, setEditing] = useState(false);
  const { plan } = answer;
  const other = useQuery({
    queryKey: ["sql", answer.id, dialect],
    queryFn: () => api.planSql(plan, dialect),
    enabled: dialect !== "duckdb",
  });
  const sql = dialect === "duckdb" ? answer.sql : (other.data?.sql ?? "");
  const codes = { SQL: sql, Python: answer.python, Plan: JSON.stringify(plan, null, 2) };
  const [tab, setTab] = useState<keyof typeof codes>("SQL");
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(codes[tab]);
    setCopied(true);
    setTimeout(() => setCopied(false), 1500);
  };
  return (
    <Tabs.Root value={tab} onValueChange={(v) => setTab(v as keyof typeof codes)}>
      <div className="flex items-baseline gap-4">
        <Tabs.List aria-label="Code" className="flex gap-3">
          {Object.keys(codes).map((name) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="pb-0.5 text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Link className="ml-auto text-soft no-underline hover:underline" onClick={() => void copy()}>
          {copied ? "Copied" : "Copy"}
        </Link>
      </div>
      {tab === "SQL" && (
        <div className="mt-2 flex items-center gap-2 text-soft">
          <label htmlFor="dialect">As</label>
          <select
            id="dialect"
            value={dialect}
            onChange={(e) => setDialect(e.target.value as Dialect)}
            className="rounded border border-rule bg-paper px-1.5 py-0.5 text-ink"
          >
            {Object.entries(DIALECTS).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
          <Link className="ml-auto" onClick={() => setEditing(true)}>
            Edit and run
          </Link>
        </div>
      )}
      {other.isError && (
        <div className="mt-2">
          <ProblemNote error={other.error} again={() => void other.refetch()} />
        </div>
      )}
      {Object.entries(codes).map(([name, code]) => (
        <Tabs.Content key={name} value={name}>
          <pre
            tabIndex={0}
            className="mt-2 max-h-80 overflow-auto rounded border border-rule bg-paper p-2.5 font-mono text-[11px] leading-relaxed"
          >
            {name === "SQL" ? highlighted(code) : code}
          </pre>
        </Tabs.Content>
      ))}
      {editing && (
        <Suspense fallback={<Busy>Opening the editor…</Busy>}>
          <OwnSql open first={answer.sql} onClose={() => setEditing(false)} />
        </Suspense>
      )}
    </Tabs.Root>
  );
}

const WORDS =
  /\b(SELECT|FROM|WHERE|GROUP BY|ORDER BY|HAVING|JOIN|LEFT|INNER|ON|AS|AND|OR|NOT|IN|IS|NULL|BETWEEN|LIMIT|DESC|ASC|NULLS LAST|WITH|OVER|PARTITION BY|CAST|COUNT|SUM|AVG|MIN|MAX|MEDIAN|EXISTS|DISTINCT|EXTRACT|DATE|TRUE|FALSE)\b/g;

function highlighted(code: string) {
  return code.split(WORDS).map((part, i) =>
    i % 2 === 1 ? (
      <b key={i} className="font-semibold text-pen">
        {part}
      </b>
    ) : (
      part
    ),
  );
}
