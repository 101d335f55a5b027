/** A chart drawn by Vega-Lite from the specification that came with the answer. */
import { useEffect, useRef, useState } from "react";
import { ProblemNote } from "../../ui/primitives";

/** A chart that is drawn, for what can be saved of it. */
export type Drawn = { picture: (form: "png" | "svg") => Promise<string> };

export function Chart({
  spec,
  label,
  onDrawn,
}: {
  spec: Record<string, unknown>;
  label: string;
  onDrawn?: (drawn: Drawn | null) => void;
}) {
  const place = useRef<HTMLDivElement>(null);
  const [error, setError] = useState<unknown>(null);
  const told = useRef(onDrawn);
  useEffect(() => {
    told.current = onDrawn;
  });
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
        else told.current?.({ picture: (form) => result.view.toImageURL(form, form === "png" ? 2 : 1) });
      })
      .catch(setError);
    return () => {
      gone = true;
      told.current?.(null);
      finish?.();
    };
  }, [spec]);
  if (error) return <ProblemNote error={error} />;
  return <div ref={place} role="img" aria-label={`Chart. ${label}`} className="mt-4 w-full" data-testid="chart" />;
}
