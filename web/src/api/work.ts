/** Readings under way, followed until they end; kept outside React so that they outlive the view that began them. */
import { useSyncExternalStore } from "react";
import { workspaceHere } from "../ui/location";
import { apiOf, Problem, type Job } from "./client";
import { send, type Sending } from "./uploads";

const POLL = 300;
/** Looks that may fail one after the other before a reading counts as lost; each waits twice as long as the one before. */
const PATIENCE = 6;

export type Work = { key: string; workspace: number; sending: Sending | null; job: Job | null };

type Ended = (job: Job, workspace: number) => void | Promise<void>;

let works: readonly Work[] = [];
let number = 0;
const listeners = new Set<() => void>();
const enders = new Set<Ended>();

const put = (key: string, workspace: number, change: Partial<Work>) => {
  works = works.some((w) => w.key === key)
    ? works.map((w) => (w.key === key ? { ...w, ...change } : w))
    : [...works, { key, workspace, sending: null, job: null, ...change }];
  listeners.forEach((l) => l());
};

export const ended = (job: Job) => !["waiting", "reading"].includes(job.status);

/** Follow a reading until it ends. */
export function follow(job: Job, key = job.id, workspace = workspaceHere()): void {
  put(key, workspace, { sending: null, job });
  if (ended(job)) {
    enders.forEach((e) => void e(job, workspace));
    return;
  }
  const lost = (problem: string) => put(key, workspace, { job: { ...job, status: "failed", problem } });
  setTimeout(() => look(job.id, key, workspace, lost), POLL);
}

/** Look how far a reading is, and follow it; a look that failed is tried again. */
function look(id: string, key: string, workspace: number, lost: (problem: string) => void, failed = 0): void {
  apiOf(() => workspace)
    .job(id)
    .then(
      (job) => follow(job, key, workspace),
      (problem: Error) => {
        const gone = problem instanceof Problem && problem.status === 404;
        if (gone || failed >= PATIENCE) lost(problem.message);
        else setTimeout(() => look(id, key, workspace, lost, failed + 1), POLL * 2 ** (failed + 1));
      },
    );
}

/** Send files side by side, each read as soon as it has come. */
export function sendAll(files: File[], replaces: string | null = null, workspace = workspaceHere()): void {
  for (const file of files) {
    const key = `sending-${number++}`;
    send(file, workspace, replaces, {
      onChange: (sending) => put(key, workspace, { sending }),
      onSent: (id) =>
        look(id, key, workspace, (problem) =>
          put(key, workspace, {
            sending: { file: file.name, share: 1, status: "failed", problem, stop: () => undefined },
          }),
        ),
    });
  }
}

/** Take a line out of the list; one under way is stopped first. */
export function dismiss(work: Work): void {
  if (work.sending && work.sending.status !== "failed") work.sending.stop();
  if (work.job && !ended(work.job)) {
    void apiOf(() => work.workspace).stopJob(work.job.id);
    return;
  }
  works = works.filter((w) => w.key !== work.key);
  listeners.forEach((l) => l());
}

/** Be told when a reading ends; gives back how to be told no more. */
export function onEnded(ender: Ended): () => void {
  enders.add(ender);
  return () => void enders.delete(ender);
}

/** The readings of the workspace that is open. */
export const useWorks = () => useAll().filter((work) => work.workspace === workspaceHere());

const useAll = () =>
  useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      return () => void listeners.delete(changed);
    },
    () => works,
  );
