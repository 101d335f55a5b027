/** Drop files or pick them; one bar for the sending, one for each file's reading. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, upload, type Job } from "../../api/client";
import { bytes } from "../../ui/format";
import { go } from "../../ui/location";
import { Link, ProblemNote, ProgressBar } from "../../ui/primitives";

const POLL = 300;

export function FileDrop({ limit }: { limit: number }) {
  const client = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [sending, setSending] = useState<number | null>(null);
  const [job, setJob] = useState<Job | null>(null);
  const [error, setError] = useState<unknown>(null);

  useEffect(() => {
    if (!job || job.finished) return;
    const timer = setTimeout(() => {
      api.job(job.id).then((next) => {
        setJob(next);
        if (!next.finished) return;
        void client.invalidateQueries();
        const read = next.files.find((f) => f.status === "done");
        const name = read?.what.replace("Read as ", "").split(", ")[0];
        if (name) go.table(name);
      }, setError);
    }, POLL);
    return () => clearTimeout(timer);
  }, [job, client]);

  const send = async (files: File[]) => {
    if (files.length === 0) return;
    setError(null);
    setJob(null);
    setSending(0);
    try {
      setJob(await upload(files, setSending));
    } catch (problem) {
      setError(problem);
    }
    setSending(null);
  };

  return (
    <div className="px-3.5 pt-4">
      <div
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          void send([...e.dataTransfer.files]);
        }}
        className={`rounded border border-dashed px-3 py-3 text-center text-soft ${over ? "border-pen bg-paper" : "border-soft"}`}
      >
        Drop CSV or XLSX files here, or <Link onClick={() => picker.current?.click()}>choose files</Link>
        <small className="block">up to {bytes(limit)} each</small>
        <input
          ref={picker}
          type="file"
          multiple
          accept=".csv,.tsv,.txt,.xlsx,.xls,.xlsb,.ods"
          className="sr-only"
          tabIndex={-1}
          aria-label="Choose files"
          onChange={(e) => {
            void send([...(e.target.files ?? [])]);
            e.target.value = "";
          }}
        />
      </div>
      {sending !== null && (
        <div className="mt-3">
          <p className="text-xs text-soft">{sending < 1 ? `Sending, ${Math.round(100 * sending)}%` : "Sent"}</p>
          <ProgressBar share={sending} label="Sending" />
        </div>
      )}
      {error != null && <div className="mt-3"><ProblemNote error={error} /></div>}
      <ul aria-live="polite">
        {job?.files.map((f, i) => (
          <li key={`${f.file}-${i}`} className="mt-3 break-words text-xs">
            <b className="font-medium">{f.file}</b>
            {f.status === "failed" ? (
              <p role="alert" className="text-stop">{f.problem}</p>
            ) : (
              <>
                <p className="text-soft">{f.what}</p>
                {f.status !== "done" && <ProgressBar share={f.share} label={`Reading ${f.file}`} />}
              </>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
