/** How far a piece of work is that somebody waits for. */
import { useEffect, useState } from "react";
import { api } from "../api/client";

/* Milliseconds before it is asked for, since most work is done by then, and between two times. */
const LATE = 800;
const AGAIN = 400;

/** What the work of a run tells of itself; empty while there is nothing to tell. */
export function useRun(run: string | undefined): string {
  const [told, setTold] = useState({ run: "", words: "" });
  useEffect(() => {
    if (!run) return;
    let timer = setTimeout(look, LATE);
    function look() {
      api
        .run(run ?? "")
        .then(({ told: words }) => {
          setTold({ run: run ?? "", words: words ?? "" });
          if (words !== null) timer = setTimeout(look, AGAIN);
        })
        // What is waited for says by itself what went wrong.
        .catch(() => undefined);
    }
    return () => clearTimeout(timer);
  }, [run]);
  return run && told.run === run ? told.words : "";
}
