/** Words that were not read and are the code of a series of the feed: it is brought in with one click, and asked of again. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, type Answer, type Series } from "../../api/client";
import { ended, follow, onEnded, useWorks } from "../../api/work";
import { Link, ProblemNote, ProgressBar } from "../../ui/primitives";

/** What a code looks like: a word of letters and digits as people type them. */
const CODE = /^[a-z][a-z0-9._-]{2,29}$/i;

export function SeriesNamed({ answer, onAgain }: { answer: Answer; onAgain: () => void }) {
  const words = answer.unread.filter((word) => CODE.test(word)).slice(0, 3);
  return words.map((word) => <SeriesCalled key={word} word={word} onAgain={onAgain} />);
}

function SeriesCalled({ word, onAgain }: { word: string; onAgain: () => void }) {
  /* Where there is no feed, or it is silent, nothing is offered. */
  const found = useQuery({
    queryKey: ["feed", word],
    queryFn: () => api.series(word),
    retry: false,
    staleTime: 60_000,
  });
  const series = found.data?.find((s) => s.code.toUpperCase() === word.toUpperCase());
  return series ? <BringSeries series={series} onAgain={onAgain} /> : null;
}

function BringSeries({ series, onAgain }: { series: Series; onAgain: () => void }) {
  const bring = useMutation({ mutationFn: () => api.fetchSeries(series.code), onSuccess: (job) => follow(job) });
  const work = useWorks().find((w) => w.job?.id === bring.data?.id);
  const again = useRef(onAgain);
  useEffect(() => void (again.current = onAgain), [onAgain]);
  const id = bring.data?.id;
  useEffect(
    () =>
      id === undefined
        ? undefined
        : onEnded((job) => {
            if (job.id === id && job.status === "done") again.current();
          }),
    [id],
  );
  return (
    <div className="mt-4 border-l-2 border-pen py-1 pl-4" data-testid="series">
      <p>
        <b className="font-semibold">{series.code}</b> is a series of the feed:{" "}
        <span className="text-soft">
          {series.name}, day by day{series.first && ` since ${series.first.slice(0, 4)}`}.
        </span>{" "}
        {id === undefined && (
          <Link onClick={() => bring.mutate()}>{bring.isPending ? "Asking for it…" : "Bring it in and ask again"}</Link>
        )}
      </p>
      {work?.job && !ended(work.job) && <ProgressBar share={work.job.share} label={`Reading ${series.code}`} />}
      {work?.job?.problem && <p className="text-stop">{work.job.problem}</p>}
      {bring.isError && <ProblemNote error={bring.error} />}
    </div>
  );
}
