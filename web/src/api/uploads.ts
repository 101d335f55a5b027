/** Files on their way to the server, by the tus protocol: each goes on after a broken connection or a restart. */
import { Upload } from "tus-js-client";
import { Problem } from "./client";

export type Sending = {
  file: string;
  share: number;
  status: "sending" | "waiting for the server" | "failed";
  problem: string | null;
  stop: () => void;
};

const PIECE = 8 * 1024 * 1024;

type Told = { onChange: (sending: Sending) => void; onSent: (id: string) => void };

/** Send a file to a workspace; `onSent` has the number of the reading that follows. */
export function send(file: File, workspace: number, replaces: string | null, { onChange, onSent }: Told): void {
  const upload = new Upload(file, {
    endpoint: `/api/v1/workspaces/${workspace}/uploads`,
    chunkSize: PIECE,
    retryDelays: [0, 500, 1000, 2000, 4000, 8000, 15000],
    metadata: { filename: file.name, ...(replaces ? { replaces } : {}) },
    removeFingerprintOnSuccess: true,
    onProgress: (sent, total) => tell({ share: total ? sent / total : 1, status: "sending" }),
    onShouldRetry: (error) => {
      const status = error.originalResponse?.getStatus() ?? 0;
      const again = status === 0 || status === 409 || status === 423 || status >= 500;
      if (again) tell({ status: "waiting for the server" });
      return again;
    },
    onError: (error) => {
      const body = "originalResponse" in error ? (error.originalResponse?.getBody() ?? "") : "";
      tell({ status: "failed", problem: told(body) });
    },
    onSuccess: () => {
      const id = upload.url?.split("/").pop();
      if (id) onSent(id);
    },
  });
  let state: Sending = {
    file: file.name,
    share: 0,
    status: "sending",
    problem: null,
    stop: () => void upload.abort(true),
  };
  const tell = (change: Partial<Sending>) => {
    state = { ...state, ...change };
    onChange(state);
  };
  tell({});
  void upload.findPreviousUploads().then((earlier) => {
    const first = earlier[0];
    if (first) upload.resumeFromPreviousUpload(first);
    upload.start();
  });
}

function told(body: string): string {
  try {
    const { problem, advice } = JSON.parse(body) as { problem: string; advice: string };
    return `${problem} ${advice}`.trim();
  } catch {
    return new Problem("The file did not arrive.", "Check that Gumption is still running, then send it again.").message;
  }
}
