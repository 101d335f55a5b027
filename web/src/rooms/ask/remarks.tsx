/** What stands out: each with its small chart and the question that shows it. */
import type { Remark } from "../../api/client";
import { Link } from "../../ui/primitives";
import { Chart } from "./chart";

export function Remarks({ remarks, onAsk }: { remarks: Remark[]; onAsk: (question: string) => void }) {
  if (remarks.length === 0) return null;
  return (
    <ol className="mt-2 divide-y divide-rule border-y border-rule" data-testid="remarks">
      {remarks.map((remark) => (
        <li key={remark.sentence} className="flex items-center gap-4 py-2.5">
          <div className="min-w-0 flex-1">
            <p>{remark.sentence}</p>
            <Link className="font-serif" onClick={() => onAsk(remark.question)}>
              {remark.question}
            </Link>
          </div>
          {remark.chart && (
            <div className="w-26 shrink-0 *:mt-0">
              <Chart spec={remark.chart} label={remark.sentence} />
            </div>
          )}
        </li>
      ))}
    </ol>
  );
}
