/** What a kept answer is watched for: a figure of it over or under a bound. */
import { useState } from "react";
import { api, type FolioPage, type Kept, type Part, type Watch } from "../../api/client";
import { Button, Choose, ProblemNote, TextField, Window } from "../../ui/primitives";
import { usePageChange } from "./use-page";

const OF: readonly (readonly [NonNullable<Watch["of"]>, string])[] = [
  ["any", "any row"],
  ["first", "the first row"],
  ["last", "the last row"],
  ["total", "all rows added up"],
];
const COMPARISONS: readonly (readonly [Watch["comparison"], string])[] = [
  ["over", "over"],
  ["under", "under"],
  ["at least", "at least"],
  ["at most", "at most"],
];

export function WatchForm({
  page,
  part,
  answer,
  onClose,
}: {
  page: FolioPage;
  part: Part;
  answer: Kept;
  onClose: () => void;
}) {
  const measures = answer.fields.filter((f) => f.measures);
  const [column, setColumn] = useState(part.watch?.column ?? measures[0]?.name ?? "");
  // Parts of one are shown in percent, and said so.
  const share = (name: string) => {
    const field = measures.find((f) => f.name === name);
    return field?.role === "percentage" && field.type === "float" && field.unit == null;
  };
  const [of, setOf] = useState<NonNullable<Watch["of"]>>(part.watch?.of ?? (answer.is_one_figure ? "first" : "any"));
  const [comparison, setComparison] = useState<Watch["comparison"]>(part.watch?.comparison ?? "over");
  const [bound, setBound] = useState(
    part.watch ? String(share(part.watch.column) ? +(part.watch.bound * 100).toPrecision(12) : part.watch.bound) : "",
  );
  const size = Number(bound.replace("%", "").trim());
  const fine = bound.trim() !== "" && Number.isFinite(size) && column !== "";
  const watch = usePageChange(
    () =>
      api.changePart(page.id, part.id, {
        watch: { column, of, comparison, bound: share(column) ? size / 100 : size },
        unwatch: false,
      }),
    onClose,
  );
  return (
    <Window open onClose={onClose} title="Watch it" about="Told in the folio and in its feed whenever it is met.">
      {measures.length === 0 ? (
        <p>This answer has no figure to be watched.</p>
      ) : (
        <form
          className="space-y-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (fine) watch.mutate(undefined);
          }}
        >
          <Choose
            label="Figure"
            value={column}
            options={measures.map((f) => [f.name, f.label] as const)}
            onChange={setColumn}
          />
          {!answer.is_one_figure && <Choose label="Of" value={of} options={OF} onChange={setOf} />}
          <div className="grid grid-cols-2 gap-3">
            <Choose label="Is" value={comparison} options={COMPARISONS} onChange={setComparison} />
            <TextField
              label={share(column) ? "Per cent" : "Number"}
              inputMode="decimal"
              value={bound}
              onChange={(e) => setBound(e.target.value)}
            />
          </div>
          {watch.isError && <ProblemNote error={watch.error} />}
          <Button type="submit" disabled={!fine || watch.isPending}>
            Watch
          </Button>
        </form>
      )}
    </Window>
  );
}
