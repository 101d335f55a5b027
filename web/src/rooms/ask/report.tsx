/** Several answers under one another, each as it is worked now: what a brief comes to. */
import { useMutation, useQueries, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Answer, type Answered } from "../../api/client";
import { plural } from "../../ui/format";
import { go } from "../../ui/location";
import { Busy, Button, Link, ProblemNote } from "../../ui/primitives";
import { Chart, type Drawn } from "./chart";
import { keepText } from "./keep";
import { pageOf } from "./page-out";
import { ResultTable } from "./result-table";

export function Report({ entries, headings }: { entries: number[]; headings: Record<number, string> }) {
  const found = useQueries({
    queries: entries.map((id) => ({ queryKey: ["entry", id], queryFn: () => api.entry(id) })),
  });
  const answers = found.flatMap((q) => (q.data ? [q.data] : []));
  const answered = answers.filter((a): a is Answered => a.status === "answered");
  const cautions = answered.reduce((sum, a) => sum + a.checks.filter((c) => c.weight !== "holds").length, 0);
  const drawn = useRef(new Map<number, Drawn>());
  const [saving, setSaving] = useState(false);
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: () => api.pageOfTrail(Object.values(headings)[0] ?? "Report", entries, headings),
    onSuccess: (page) => {
      void client.invalidateQueries({ queryKey: ["folio"] });
      go.folio(page.id);
    },
  });
  const save = async () => {
    setSaving(true);
    const svgs = await Promise.all(answered.map(async (a) => (await drawn.current.get(a.id)?.svg()) ?? ""));
    keepText(pageOf(answered, svgs, headings), "report.html");
    setSaving(false);
  };
  return (
    <article className="mx-auto max-w-3xl px-6 pb-16 pt-6" aria-label="Report">
      <div className="flex flex-wrap items-baseline gap-4">
        <h1 className="font-serif text-2xl font-medium">Report</h1>
        <span className="text-soft">
          {plural(entries.length, "question")}
          {cautions > 0 && `, ${plural(cautions, "caution")}`}
        </span>
        <span className="ml-auto flex gap-3">
          <Button disabled={keep.isPending || answered.length === 0} onClick={() => keep.mutate()}>
            {keep.isPending ? "Keeping…" : "Keep as a page of the folio"}
          </Button>
          <Button disabled={saving || answered.length === 0} onClick={() => void save()}>
            Save as one page (HTML)
          </Button>
        </span>
      </div>
      {keep.isError && <ProblemNote error={keep.error} />}
      {found.map((one, n) => (
        <section key={entries[n]} className="mt-8 border-t border-rule pt-4">
          {headings[entries[n] ?? 0] && (
            <h2 className="mb-3 font-serif text-2xl font-medium">{headings[entries[n] ?? 0]}</h2>
          )}
          {one.isPending && <Busy>Working it out…</Busy>}
          {one.isError && <ProblemNote error={one.error} again={() => void one.refetch()} />}
          {one.data && (
            <Part
              answer={one.data}
              onDrawn={(id, view) => void (view ? drawn.current.set(id, view) : drawn.current.delete(id))}
            />
          )}
        </section>
      ))}
    </article>
  );
}

function Part({ answer, onDrawn }: { answer: Answer; onDrawn: (id: number, view: Drawn | null) => void }) {
  return (
    <>
      <div className="flex items-baseline gap-4">
        <h3 className="min-w-0 font-serif text-xl font-medium">{answer.question}</h3>
        <Link className="ml-auto shrink-0 text-xs" onClick={() => go.entry(answer.id)}>
          open
        </Link>
      </div>
      {answer.status !== "answered" ? (
        <p className="mt-1 whitespace-pre-line text-caution">{answer.problem}</p>
      ) : (
        <>
          <p className="mt-1 text-soft">{answer.reading}.</p>
          {answer.doubt && <p className={answer.doubt.loud ? "text-caution" : "text-soft"}>{answer.doubt.words}</p>}
          <p className="mt-2 font-serif text-lg leading-snug">{answer.finding}</p>
          {answer.chart && (
            <Chart spec={answer.chart} label={answer.finding} onDrawn={(view) => onDrawn(answer.id, view)} />
          )}
          {answer.rows.length * answer.fields.length > 1 && (
            <ResultTable fields={answer.fields} rows={answer.rows} cells={answer.cells} total={answer.total} />
          )}
          <ul className="mt-2">
            {answer.checks
              .filter((c) => c.weight !== "holds")
              .map((c, i) => (
                <li key={i} className={c.weight === "stop" ? "text-stop" : "text-caution"}>
                  ! {c.sentence} {c.detail && <small className="text-soft">{c.detail}</small>}
                </li>
              ))}
          </ul>
        </>
      )}
    </>
  );
}
