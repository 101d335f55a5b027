/** The answer: how it was read, the finding, the chart and the table. */
import { useQuery } from "@tanstack/react-query";
import { api, type Answer, type Answered, type Edit, type Term } from "../../api/client";
import { useKeys } from "../../ui/keys";
import { go } from "../../ui/location";
import { Key, Link } from "../../ui/primitives";
import { Behind, hasGroups } from "./behind";
import { Choices } from "./choices";
import { SeriesNamed } from "./feed-series";
import { Drawing } from "./drawn";
import { Marks } from "./learned";
import { KeepGroups } from "./keep-groups";
import { Remarks } from "./remarks";
import { ResultTable } from "./result-table";
import { ByHand } from "./steps";
import { TermsUsed } from "./words";

type Props = {
  answer: Answer;
  busy: boolean;
  onChoose: (choice: number, remember: boolean) => void;
  onMeant: (terms: Term[]) => void;
  onEdit: (edit: Edit) => void;
  onFollow: (question: string) => void;
  /** A question of its own, whatever was asked before. */
  onAsk: (question: string) => void;
};

export function AnswerView(props: Props) {
  return (
    <>
      <Told {...props} />
      {props.answer.status !== "told" && (
        <SeriesNamed answer={props.answer} onAgain={() => props.onMeant(props.answer.own_terms)} />
      )}
    </>
  );
}

function Told({ answer, busy, onChoose, onMeant, onEdit, onFollow, onAsk }: Props) {
  if (answer.status === "told") {
    return (
      <p className="mt-4 border-t border-rule pt-3 whitespace-pre-line leading-relaxed" data-testid="told">
        {withQuestions(answer.problem, onAsk)}
      </p>
    );
  }
  if (answer.status === "asks") return <Choices answer={answer} busy={busy} onTake={onChoose} />;
  if (answer.status !== "answered") {
    return (
      <div className="mt-6 border-l-2 border-caution py-1 pl-4" role="alert">
        <p className="font-serif text-lg">{answer.problem}</p>
        <p className="mt-1 text-soft">
          {answer.unread.length > 0
            ? "Click a word above to say what it means, or ask in other words."
            : "Say it in other words, or name the table, column or value you mean."}{" "}
          The Tables room shows what there is.
        </p>
        {answer.alternatives.length > 0 && (
          <div className="mt-3 text-soft" data-testid="near">
            The nearest that can be told
            <ul className="mt-1 space-y-1">
              {answer.alternatives.map((a) => (
                <li key={a.choice}>
                  <Link onClick={() => onChoose(a.choice, false)}>{a.reading}</Link>
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
    );
  }
  const single = answer.rows.length === 1 && answer.fields.length === 1 ? answer.fields[0] : undefined;
  return (
    <div className="mt-4 border-t border-rule pt-3">
      <p>
        <b className="font-semibold">{answer.by_hand?.undo ? "Changed by hand to" : "Read as"}</b>{" "}
        <span className="text-soft">{answer.reading}.</span>
      </p>
      {answer.lesson && answer.lesson.kind !== "wrong" && (
        <p className="mt-1 text-soft" data-testid="by-lesson">
          {answer.lesson.kind === "chosen"
            ? "Read so because it was chosen for"
            : "Read so because it was called right for"}{" "}
          “{answer.lesson.question}”.
        </p>
      )}
      <ByHand answer={answer} onEdit={onEdit} />
      <TermsUsed answer={answer} onMeant={onMeant} />
      {answer.doubt && <Doubt doubt={answer.doubt} others={answer.alternatives.length > 0} />}
      <p className="mt-4 font-serif text-xl leading-snug" data-testid="finding" role="status">
        {answer.finding}
      </p>
      {single && <p className="mt-3 font-mono text-4xl">{answer.cells[0]?.[0] ?? "missing"}</p>}
      <Drawing answer={answer} onFollow={onFollow} />
      {answer.study && <Remarks remarks={answer.study.remarks} onAsk={onAsk} />}
      {answer.study && <TakenApart study={answer.study} onFollow={onFollow} />}
      <KeepGroups answer={answer} onAsk={onAsk} />
      {!single && !answer.study?.remarks.length && (
        <ResultTable
          fields={answer.fields}
          rows={answer.rows}
          cells={answer.cells}
          total={answer.total}
          more={{
            key: ["entry", answer.id, "rows", answer.plan],
            page: (offset, limit, order) => api.answerRows(answer.id, offset, limit, order),
            totals: () => api.totals(answer.id),
          }}
          {...(hasGroups(answer) ? { behind: (row: number) => <Behind answer={answer} row={row} /> } : {})}
        />
      )}
      {!answer.by_hand && (
        <div className="mt-3 flex items-center gap-2">
          <Marks answer={answer} />
        </div>
      )}
      <GoOn answer={answer} onFollow={onFollow} />
      {answer.alternatives.length > 0 && <Others answer={answer} onChoose={(choice) => onChoose(choice, false)} />}
    </div>
  );
}

/** A text in which questions stand on lines of their own, in quotes: each is asked with a click. */
function withQuestions(text: string, onAsk: (question: string) => void) {
  return text.split("\n").map((line, place) => {
    const question = /^• “(.+)”$/.exec(line)?.[1];
    return (
      <span key={place} className="block min-h-[1lh]">
        {question ? (
          <Link className="font-serif" onClick={() => onAsk(question)}>
            {question}
          </Link>
        ) : (
          line
        )}
      </span>
    );
  });
}

/** What a change was taken apart by, and what else it can be. */
function TakenApart({
  study,
  onFollow,
}: {
  study: NonNullable<Answered["study"]>;
  onFollow: (question: string) => void;
}) {
  const [taken, ...others] = study.ways;
  if (!taken) return null;
  return (
    <p className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-soft" data-testid="ways">
      Taken apart by <b className="border-b-2 border-ink font-semibold text-ink">{taken}</b>
      {others.map((way) => (
        <Link key={way} onClick={() => onFollow(`by ${way}`)}>
          {way}
        </Link>
      ))}
    </p>
  );
}

/** Other readings, each with its answer in brief; a key takes one. */
function Others({ answer, onChoose }: { answer: Answered; onChoose: (choice: number) => void }) {
  const told = useQuery({ queryKey: ["others", answer.id], queryFn: () => api.others(answer.id) });
  const others = told.data ?? answer.alternatives;
  useKeys(Object.fromEntries(others.slice(0, 9).map((a, i) => [`Alt+${i + 1}`, () => onChoose(a.choice)])));
  return (
    <div className="mt-5 text-soft" data-testid="others">
      Could also be read as
      <ul className="mt-1 space-y-1.5">
        {others.map((a, i) => (
          <li key={a.choice}>
            <Link onClick={() => onChoose(a.choice)}>{a.reading}</Link>
            <Key>Alt+{i + 1}</Key>
            {a.finding && <span className="block">{a.finding}</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Why the answer may not be the one that was meant; loudly only where much speaks against it. */
function Doubt({ doubt, others }: { doubt: NonNullable<Answered["doubt"]>; others: boolean }) {
  return (
    <p className={`mt-1 ${doubt.loud ? "text-caution" : "text-soft"}`} data-testid="doubt">
      {doubt.words}
      {others ? " Other readings stand below." : ""}
    </p>
  );
}

/** Two or three questions that follow on from the answer. */
function GoOn({ answer, onFollow }: { answer: Answered; onFollow: (question: string) => void }) {
  const next = useQuery({ queryKey: ["next", answer.id], queryFn: () => api.next(answer.id) });
  if (!next.data) return null;
  return (
    <p className="mt-5 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-soft" data-testid="next">
      Go on with{" "}
      {next.data.map((question) => (
        <Link key={question} onClick={() => onFollow(question)}>
          {question}
        </Link>
      ))}
      {!answer.study && <Link onClick={() => onFollow("what stands out here")}>what stands out here</Link>}
      {answer.follows == null && <Link onClick={() => go.newWord("", answer.question)}>keep it as a word</Link>}
    </p>
  );
}
