/** A table that an answer brings in with one click, followed until it is there. */
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { type Job } from "../../api/client";
import { ended, follow, onEnded, useWorks } from "../../api/work";
import { ProblemNote, ProgressBar } from "../../ui/primitives";

/** Bringing a table in: what begins it, until it has begun, and how far it is. */
export function useBringing(begin: () => Promise<Job>, onDone?: () => void) {
  const bring = useMutation({ mutationFn: begin, onSuccess: (job) => follow(job) });
  const id = bring.data?.id;
  const job = useWorks().find((w) => w.job?.id === id)?.job ?? null;
  const done = useRef(onDone);
  useEffect(() => void (done.current = onDone), [onDone]);
  useEffect(
    () =>
      id === undefined
        ? undefined
        : onEnded((job) => {
            if (job.id === id && job.status === "done") done.current?.();
          }),
    [id],
  );
  return {
    begin: id === undefined ? () => bring.mutate() : null,
    isPending: bring.isPending,
    error: bring.error,
    job,
  };
}

/** How far it is, and what went wrong. */
export function Bringing({ of, label }: { of: ReturnType<typeof useBringing>; label: string }) {
  return (
    <>
      {of.job && !ended(of.job) && <ProgressBar share={of.job.share} label={label} />}
      {of.job?.problem && <p className="text-stop">{of.job.problem}</p>}
      {of.error && <ProblemNote error={of.error} />}
    </>
  );
}
