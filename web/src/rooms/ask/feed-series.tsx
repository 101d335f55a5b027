/** Words that were not read and are the code of a series of the feed: it is brought in with one click, and asked of again. */
import { useQuery } from "@tanstack/react-query";
import { api, type Answer, type Series } from "../../api/client";
import { Link } from "../../ui/primitives";
import { Bringing, useBringing } from "./bringing";

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
  const bring = useBringing(() => api.fetchSeries(series.code), onAgain);
  return (
    <div className="mt-4 border-l-2 border-pen py-1 pl-4" data-testid="series">
      <p>
        <b className="font-semibold">{series.code}</b> is a series of the feed:{" "}
        <span className="text-soft">
          {series.name}, day by day{series.first && ` since ${series.first.slice(0, 4)}`}.
        </span>{" "}
        {bring.begin && (
          <Link onClick={bring.begin}>{bring.isPending ? "Asking for it…" : "Bring it in and ask again"}</Link>
        )}
      </p>
      <Bringing of={bring} label={`Reading ${series.code}`} />
    </div>
  );
}
