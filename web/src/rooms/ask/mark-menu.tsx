/** What can be done with a mark of a chart, or with a span of time drawn over one. */
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Answered } from "../../api/client";
import { Link } from "../../ui/primitives";
import { hasGroups, labelsOf, RowsBehind } from "./behind";
import type { Marked } from "./chart";

export function MarkMenu({
  answer,
  marked,
  onFollow,
  onClose,
}: {
  answer: Answered;
  marked: Marked;
  onFollow: (question: string) => void;
  onClose: () => void;
}) {
  const [rows, setRows] = useState(false);
  const { of } = marked;
  const labels = "row" in of ? labelsOf(answer, of.row) : [];
  const across = "row" in of && of.column ? answer.fields.find((f) => f.name === of.column)?.label : undefined;
  const named = [...labels, ...(across ? [across] : [])];
  const narrowed = "row" in of ? named.filter((n) => n !== "missing") : [`from ${of.from} to ${of.to}`];
  if (rows && "row" in of) {
    return (
      <RowsBehind answer={answer} row={of.row} column={of.column ?? ""} name={named.join(", ")} onClose={onClose} />
    );
  }
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor asChild>
        <span aria-hidden className="absolute" style={{ left: marked.at.x, top: marked.at.y }} />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          sideOffset={6}
          className="z-20 max-w-72 rounded border border-rule bg-paper px-3 py-2 shadow-md"
          aria-label="What is marked"
          data-of-mark
        >
          <p className="font-medium">{"row" in of ? named.join(", ") : `${of.from} to ${of.to}`}</p>
          <ul className="mt-1 space-y-0.5">
            {"row" in of && hasGroups(answer) && (
              <li>
                <Link onClick={() => setRows(true)}>the rows behind it</Link>
              </li>
            )}
            {narrowed.map((words) => (
              <li key={words}>
                <Link
                  onClick={() => {
                    onClose();
                    onFollow(`only ${words}`);
                  }}
                >
                  only {words}
                </Link>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
