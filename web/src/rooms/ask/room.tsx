import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Answer, type Edit, type Said, type Term, type Workspace } from "../../api/client";
import { useKeys } from "../../ui/keys";
import { go } from "../../ui/location";
import { useRun } from "../../ui/run";
import { Busy, Heading, Link, ProblemNote } from "../../ui/primitives";
import { beginTour } from "../../ui/tour";
import { AnswerView } from "./answer";
import type { Asked } from "./brief";
import { NothingChosen } from "./choices";
import { Learned } from "./learned";
import { ProofView } from "./proof";
import { Question } from "./question";
import { TrailView } from "./trail";
import { WorthOfAll } from "./worth-of-all";
import { alongWords } from "./words";

/** How many questions of the trail are shown at first. */
const LATEST = 300;

export function AskRoom({
  workspace,
  entry,
  draft,
}: {
  workspace: Workspace;
  entry: number | null;
  draft: string | null;
}) {
  const client = useQueryClient();
  const [most, setMost] = useState(LATEST);
  const trail = useQuery({
    queryKey: ["trail", most],
    queryFn: () => api.trail(most),
    placeholderData: keepPreviousData,
  });
  const answer = useQuery({
    queryKey: ["entry", entry],
    queryFn: () => api.entry(entry ?? 0),
    enabled: entry !== null,
  });
  const show = (given: Answer) => {
    // What was known of the entry before it was answered anew is not so any more.
    for (const known of ["checked", "next", "others", "drawn", "behind"])
      client.removeQueries({ queryKey: [known, given.id] });
    client.setQueryData(["entry", given.id], given);
    void client.invalidateQueries({ queryKey: ["trail"] });
    go.entry(given.id);
  };
  const ask = useMutation({
    mutationFn: (asked: { question: string; follows: number | null; run: string; said?: Said }) =>
      api.ask(asked.question, asked.follows, asked.run, asked.said),
    onSuccess: (given) => {
      void client.invalidateQueries({ queryKey: ["lessons"] });
      show(given);
    },
  });
  const edit = useMutation({
    mutationFn: ({ of, made }: { of: number; made: Edit; done?: (() => void) | undefined }) =>
      api.edit(of, made, crypto.randomUUID()),
    onSuccess: (given, { done }) => {
      done?.();
      show(given);
    },
  });
  const onEdit = (made: Edit, done?: () => void) => shown && edit.mutate({ of: shown.id, made, done });
  const [progress, setProgress] = useState<{ done: number; of: number; run: string } | null>(null);
  const stopped = useRef(false);
  const told = useRun(progress?.run ?? (ask.isPending ? ask.variables.run : undefined));
  const askAll = useMutation({
    mutationFn: async (asked: Asked[]) => {
      stopped.current = false;
      const given: Answer[] = [];
      const headings: Record<number, string> = {};
      for (const { text, follows, heading } of asked) {
        if (stopped.current) break;
        const run = crypto.randomUUID();
        setProgress({ done: given.length, of: asked.length, run });
        const before = given.at(-1);
        try {
          const one = await api.ask(text, follows && before ? before.id : null, run);
          given.push(one);
          if (heading) headings[one.id] = heading;
        } catch (error) {
          // What was answered by then is kept when the rest was stopped.
          if (!stopped.current || given.length === 0) throw error;
        }
      }
      return { given, headings };
    },
    onSuccess: ({ given, headings }) => {
      given.forEach((one) => client.setQueryData(["entry", one.id], one));
      void client.invalidateQueries({ queryKey: ["trail"] });
      go.report(
        given.map((one) => one.id),
        headings,
      );
    },
    onSettled: () => setProgress(null),
  });
  // A large answer comes first and is worked again behind it; the checked one then takes its place.
  const checked = useQuery({
    queryKey: ["checked", entry],
    queryFn: () => api.entry(entry ?? 0, true),
    enabled: answer.data?.status === "answered" && answer.data.second_to_come,
  });
  useKeys({ "Alt+ArrowRight": () => alongWords(1), "Alt+ArrowLeft": () => alongWords(-1) });
  const shown = entry === null ? undefined : (checked.data ?? answer.data);
  const earlier = [...new Set((trail.data ?? []).map((e) => e.question).reverse())];
  /** The shown question again, with what a person said of its words or its readings. */
  const again = (terms: Term[], said: Said = {}) =>
    shown &&
    ask.mutate({
      question: shown.question,
      // What was read on its own stays so, whatever its words are said to mean.
      follows:
        said.choice === undefined && shown.status === "answered" && !shown.goes_on ? null : (shown.follows ?? null),
      run: crypto.randomUUID(),
      said: { terms, asked_by: shown.id, ...said },
    });
  return (
    <div className="room room-ask [--beside:330px]">
      <TrailView
        entries={trail.data}
        error={trail.error}
        current={entry}
        again={() => void trail.refetch()}
        earlier={(trail.data?.length ?? 0) >= most ? () => setMost(most + 5 * LATEST) : null}
      />
      <section className="relative overflow-y-auto px-6 pb-10 pt-4" aria-label="Question and answer">
        <Question
          key={`${entry ?? "new"}-${draft ?? ""}-${shown ? "shown" : "open"}`}
          answer={shown}
          draft={draft}
          earlier={earlier}
          example={exampleOf(workspace)}
          busy={ask.isPending || askAll.isPending}
          progress={progress}
          told={told}
          onAskAll={(asked) => askAll.mutate(asked)}
          onAsk={(question, follows, terms) =>
            ask.mutate({ question, follows, run: crypto.randomUUID(), said: { terms } })
          }
          onMeant={again}
          onStop={() => {
            stopped.current = true;
            const run = progress?.run ?? ask.variables?.run;
            if (run) void api.stop(run);
          }}
        />
        {askAll.isError && (
          <div className="mt-4">
            <ProblemNote error={askAll.error} />
          </div>
        )}
        {ask.isError && (
          <div className="mt-4">
            <ProblemNote error={ask.error} />
          </div>
        )}
        {entry !== null && answer.isPending && (
          <div className="mt-6">
            <Busy>Working it out…</Busy>
          </div>
        )}
        {answer.isError && (
          <div className="mt-6">
            <ProblemNote error={answer.error} again={() => void answer.refetch()} />
          </div>
        )}
        {shown && (
          <AnswerView
            key={shown.id}
            answer={shown}
            busy={ask.isPending}
            onChoose={(choice, remember) =>
              again(shown.own_terms, { choice, remember, asked_by: shown.status === "asks" ? shown.id : null })
            }
            onMeant={again}
            onEdit={onEdit}
            onFollow={(question) => ask.mutate({ question, follows: shown.id, run: crypto.randomUUID() })}
            onAsk={(question) => ask.mutate({ question, follows: null, run: crypto.randomUUID() })}
          />
        )}
        {entry === null && <Starters workspace={workspace} />}
      </section>
      <aside className="relative overflow-y-auto border-l border-rule bg-desk px-4 py-4" aria-label="Proof">
        {shown?.status === "answered" ? (
          <ProofView
            key={shown.id}
            answer={shown}
            onFollow={(question) => ask.mutate({ question, follows: shown.id, run: crypto.randomUUID() })}
            busy={edit.isPending}
            problem={edit.error}
            onEdit={onEdit}
          />
        ) : shown?.status === "asks" ? (
          <NothingChosen answer={shown} />
        ) : (
          <NoProof answer={shown} />
        )}
        {shown?.status !== "answered" && <Learned answer={shown} />}
      </aside>
    </div>
  );
}

const NoProof = ({ answer }: { answer: Answer | undefined }) => (
  <>
    <Heading>Proof</Heading>
    <p className="mt-2 text-soft">
      {answer
        ? "There is no answer to prove."
        : "Every answer is shown here step by step, with the rows that went through each, the checks that held, and the code that was run."}
    </p>
  </>
);

/** What happened, in the most rows, is asked about more than what it refers to. */
const busiestFirst = (workspace: Workspace) => [...workspace.tables].sort((a, b) => b.table.rows - a.table.rows);

/** How a question of these tables may sound: the second of those worth asking, as the first counts the rows. */
function exampleOf(workspace: Workspace) {
  const said = busiestFirst(workspace)[0]?.examples[1] ?? "";
  return said.charAt(0).toLowerCase() + said.slice(1);
}

/** What to ask first: questions made from the workspace's own columns. */
function Starters({ workspace }: { workspace: Workspace }) {
  const [more, setMore] = useState(false);
  const all = busiestFirst(workspace)
    .map((t) => ({ name: t.table.name, examples: t.examples }))
    .filter((t) => t.examples.length > 0);
  if (workspace.tables.length === 0) {
    return (
      <p className="mt-6 text-soft">
        There is no table to ask of yet. <Link onClick={go.tables}>Bring in a file</Link>
      </p>
    );
  }
  return (
    <div className="mt-8 border-t border-rule pt-4">
      <Heading>Worth asking</Heading>
      <div className="mt-2 grid grid-cols-2 gap-x-8 gap-y-4">
        {(more ? all : all.slice(0, 4)).map((t) => (
          <div key={t.name}>
            <h3 className="font-medium">{t.name}</h3>
            <ul className="mt-1 space-y-1">
              {t.examples.map((q) => (
                <li key={q}>
                  <Link className="no-underline hover:underline" onClick={() => go.draft(q)}>
                    {q}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        ))}
      </div>
      {all.length > 4 && !more && (
        <div className="mt-4">
          <Link onClick={() => setMore(true)}>Show more tables</Link>
        </div>
      )}
      <WorthOfAll workspace={workspace} onAsk={go.draft} />
      <p className="mt-6 text-soft">
        New here? <Link onClick={() => void beginTour()}>Show me around</Link>
      </p>
    </div>
  );
}
