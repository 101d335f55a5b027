/** A chart drawn by Vega-Lite from the specification that came with the answer. */
import { useEffect, useRef, useState } from "react";
import { ProblemNote } from "../../ui/primitives";

export function Chart({ spec, label }: { spec: Record<string, unknown>; label: string }) {
  const place = useRef<HTMLDivElement>(null);
  const [error, setError] = useState<unknown>(null);
  useEffect(() => {
    let gone = false;
    let finish: (() => void) | undefined;
    // The drawing library is large; it is fetched once the first chart is wanted.
    import("vega-embed")
      .then(async ({ default: embed }) => {
        if (gone || !place.current) return;
        const result = await embed(place.current, spec, { actions: false, renderer: "svg", ast: true });
        finish = () => result.finalize();
        if (gone) finish();
      })
      .catch(setError);
    return () => {
      gone = true;
      finish?.();
    };
  }, [spec]);
  if (error) return <ProblemNote error={error} />;
  return <div ref={place} role="img" aria-label={`Chart. ${label}`} className="mt-4 w-full" data-testid="chart" />;
}
