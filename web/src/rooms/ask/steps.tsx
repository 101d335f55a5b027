/** The steps of an answer with the rows through each: looked into, changed, switched off, removed, and added between. */
import { DropdownMenu } from "radix-ui";
import { useState, type ReactNode } from "react";
import { api, type Answered, type Edit, type Step, type StepKind } from "../../api/client";
import { whole } from "../../ui/format";
import { useKeys } from "../../ui/keys";
import { go } from "../../ui/location";
import { Heading, Link, MENU, ProblemNote } from "../../ui/primitives";
import { RowsWindow } from "./behind";
import { StepFormView } from "./step-form";

/** Bars are as wide as the rows that came out of each step, on a root scale so that the last ones still show. */
export function Steps({
  answer,
  busy,
  problem,
  onEdit,
}: {
  answer: Answered;
  busy: boolean;
  problem: unknown;
  onEdit: (edit: Edit, done?: () => void) => void;
}) {
  const [open, setOpen] = useState<{ path: number[]; add?: StepKind } | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const choose = (at: string | null) => {
    setChosen(at);
    setOpen(null);
  };
  const [seen, setSeen] = useState<Step | null>(null);
  const most = Math.max(1, ...answer.steps.map((s) => s.rows_out ?? 0));
  const hand = answer.by_hand;
  const undo = () => hand?.undo && !busy && onEdit({ act: "undo" });
  const redo = () => hand?.redo && !busy && onEdit({ act: "redo" });
  useKeys({ "Ctrl+Z": undo, "Ctrl+Shift+Z": redo, "Ctrl+Y": redo });
  return (
    <>
      <div className="flex items-baseline gap-3">
        <Heading>Proof</Heading>
        {hand && (
          <span className="ml-auto flex gap-3 text-xs">
            <Act disabled={!hand.undo || busy} title="Ctrl+Z" onClick={undo}>
              undo
            </Act>
            <Act disabled={!hand.redo || busy} title="Ctrl+Shift+Z" onClick={redo}>
              redo
            </Act>
          </span>
        )}
      </div>
      {problem != null && open === null && (
        <div className="mt-2">
          <ProblemNote error={problem} />
        </div>
      )}
      <ol className="mt-3" aria-label="Steps">
        {answer.steps.map((step) => {
          const at = step.path.join(".");
          return (
            <li key={at}>
              <div className="grid grid-cols-[78px_1fr] gap-2.5">
                <Rows step={step} share={(step.rows_out ?? 0) / most} />
                <span className={`pb-3 leading-snug ${step.path.length > 1 ? "border-l border-rule pl-2.5" : ""}`}>
                  <button
                    type="button"
                    aria-expanded={chosen === at}
                    onClick={() => choose(chosen === at ? null : at)}
                    className={`text-left hover:underline hover:decoration-rule ${step.off ? "text-soft line-through" : ""}`}
                  >
                    <b className="font-semibold">{step.verb}</b> {step.rest}
                  </button>
                  {step.dropped.map((words) => (
                    <small key={words} className="block text-soft">
                      {words}
                    </small>
                  ))}
                  {chosen === at && (
                    <span className="mt-0.5 flex flex-wrap gap-x-2.5 text-xs">
                      {!step.off && <Act onClick={() => setSeen(step)}>rows</Act>}
                      {step.kind !== "take" && (
                        <>
                          {!FORMLESS.has(step.kind) && <Act onClick={() => setOpen({ path: step.path })}>change</Act>}
                          <Act disabled={busy} onClick={() => onEdit({ act: "switch", path: step.path })}>
                            {step.off ? "on" : "off"}
                          </Act>
                          <Act disabled={busy} onClick={() => onEdit({ act: "remove", path: step.path })}>
                            remove
                          </Act>
                        </>
                      )}
                      <Add onAdd={(add) => setOpen({ path: next(step.path), add })} />
                    </span>
                  )}
                </span>
              </div>
              {open && chosen === at && (
                <StepFormView
                  key={`${open.path.join(".")}-${open.add ?? ""}`}
                  answer={answer}
                  path={open.path}
                  add={open.add}
                  busy={busy}
                  problem={problem}
                  onApply={(edit) => onEdit(edit, () => setOpen(null))}
                  onClose={() => setOpen(null)}
                />
              )}
            </li>
          );
        })}
      </ol>
      {chosen === null && <p className="text-xs text-soft">Click a step to see its rows, or to change it.</p>}
      {seen && (
        <RowsWindow
          title={`${seen.verb} ${seen.rest}`}
          told="as they come out of this step"
          of={["step rows", answer.id, seen.path, answer.plan]}
          load={() => api.stepRows(answer.id, seen.path)}
          onClose={() => setSeen(null)}
        />
      )}
    </>
  );
}

/** Steps that are as they are: what they bring in has steps of its own. */
const FORMLESS = new Set(["append", "as_of"]);

const next = (path: number[]) => [...path.slice(0, -1), (path.at(-1) ?? 0) + 1];

function Rows({ step, share }: { step: Step; share: number }) {
  return (
    <span className="relative flex justify-end border-r-2 border-pen-light pb-3 pr-1.5 font-mono text-xs">
      <span
        aria-hidden
        className="absolute inset-y-0 right-0 bg-pen-light/35"
        style={{ width: `${100 * Math.sqrt(share)}%` }}
      />
      <span className="relative">{step.off ? "off" : step.rows_out == null ? "…" : whole(step.rows_out)}</span>
    </span>
  );
}

function Act({
  onClick,
  disabled = false,
  title,
  children,
}: {
  onClick: () => void;
  disabled?: boolean;
  title?: string;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      title={title}
      disabled={disabled}
      onClick={onClick}
      className="text-pen underline underline-offset-2 disabled:text-soft disabled:no-underline"
    >
      {children}
    </button>
  );
}

/** What can be done to the rows that a step gives, in the order of use. */
const ADDED: readonly (readonly [StepKind, string])[] = [
  ["keep", "Keep some rows"],
  ["derive", "Work out a column"],
  ["group", "Group and work out"],
  ["window", "Shares, ranks, running totals"],
  ["sort", "Sort"],
  ["limit", "Only the first"],
  ["pick", "Choose columns"],
];

function Add({ onAdd }: { onAdd: (kind: StepKind) => void }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger title="Add a step after this one" className="text-pen underline underline-offset-2">
        add…
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU} onCloseAutoFocus={(e) => e.preventDefault()}>
          {ADDED.map(([kind, words]) => (
            <DropdownMenu.Item
              key={kind}
              onSelect={() => onAdd(kind)}
              className="cursor-default rounded px-2.5 py-1 outline-none data-[highlighted]:bg-band"
            >
              {words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Said above an answer whose steps a person changed. */
export function ByHand({ answer, onEdit }: { answer: Answered; onEdit: (edit: Edit) => void }) {
  const { by_hand: hand, follows } = answer;
  if (!hand) return null;
  return (
    <p className="mt-1 text-soft" data-testid="by-hand">
      {hand.undo ? (
        <>
          The steps were changed by hand, so the words of the question no longer say all of it.{" "}
          <Link onClick={() => onEdit({ act: "undo" })}>Undo the last change</Link>
        </>
      ) : (
        "Every change was undone: these are the steps of the question as it was asked."
      )}
      {follows != null && (
        <>
          {" · "}
          <Link onClick={() => go.entry(follows)}>the answer as it was asked</Link>
        </>
      )}
    </p>
  );
}
