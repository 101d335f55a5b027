/** Groups that formed themselves, kept as a column that can be asked for like any other. */
import { useQuery } from "@tanstack/react-query";
import { api, type Answered } from "../../api/client";
import { Button, Link } from "../../ui/primitives";
import { Bringing, useBringing } from "./bringing";

export function KeepGroups({ answer, onAsk }: { answer: Answered; onAsk: (question: string) => void }) {
  const keeps = answer.study?.keeps;
  const workspace = useQuery({ queryKey: ["workspace"], queryFn: api.workspace, enabled: !!keeps });
  const keep = useBringing(() => api.keepGroups(answer.id));
  if (!keeps) return null;
  const column = keeps.column.replaceAll(" ", "_");
  const kept = workspace.data?.tables.some(({ table }) => table.columns.some((c) => c.name === column));
  return (
    <div className="mt-3" data-testid="keep-groups">
      {kept ? (
        <p role="status">
          Kept as the column <b className="font-semibold">{keeps.column}</b>.{" "}
          <Link onClick={() => onAsk(keeps.question)}>{keeps.question}</Link>
        </p>
      ) : (
        keep.begin && (
          <Button onClick={keep.begin} disabled={keep.isPending}>
            {keep.isPending ? "Writing them down…" : "Keep the groups as a column"}
          </Button>
        )
      )}
      <Bringing of={keep} label={`Reading the ${keeps.column}s`} />
    </div>
  );
}
