/** Calls to the server, typed by its OpenAPI description; every failure is a Problem that a person can read. */
import type { components } from "./schema";

type Schemas = components["schemas"];
export type Workspace = Schemas["WorkspaceOut"];
export type TableEntry = Schemas["TableOut"];
export type Column = Schemas["Column"];
export type Relationship = Schemas["Relationship"];
export type Rows = Schemas["RowsOut"];
export type Job = Schemas["JobOut"];
export type Gloss = Schemas["GlossOut"];
export type GlossResult = Schemas["GlossResult"];
export type Answer = Schemas["AnswerOut"];
export type Field = Schemas["FieldOut"];
export type Check = Schemas["CheckOut"];
export type TrailEntry = Schemas["TrailOut"];
export type Cell = string | number | boolean | null;

export class Problem extends Error {
  constructor(
    readonly problem: string,
    readonly advice: string,
  ) {
    super(`${problem} ${advice}`.trim());
  }
}

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, init);
  } catch {
    throw new Problem("The server does not answer.", "Check that Gumption is still running, then try again.");
  }
  if (!response.ok) throw await problemOf(response);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

async function problemOf(response: Response): Promise<Problem> {
  try {
    const body = (await response.json()) as Schemas["Problem"];
    return new Problem(body.problem, body.advice ?? "");
  } catch {
    return new Problem(`The server failed (${response.status}).`, "Its log has the details; try again.");
  }
}

const sent = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify(body),
});

export const api = {
  workspace: () => call<Workspace>("/workspace"),
  setAsOf: (asOf: string | null) => call<Workspace>("/workspace/as-of", sent("PUT", { as_of: asOf })),
  rows: (table: string, offset: number, limit: number) =>
    call<Rows>(`/tables/${encodeURIComponent(table)}/rows?offset=${offset}&limit=${limit}`),
  removeTable: (table: string) => call<void>(`/tables/${encodeURIComponent(table)}`, { method: "DELETE" }),
  job: (id: string) => call<Job>(`/jobs/${id}`),
  gloss: (question: string, follows: number | null, signal: AbortSignal) =>
    call<GlossResult>("/gloss", { ...sent("POST", { question, follows }), signal }),
  ask: (question: string, follows: number | null, choice = 0) =>
    call<Answer>("/questions", sent("POST", { question, follows, choice })),
  trail: () => call<TrailEntry[]>("/trail"),
  entry: (id: number, twice = false) => call<Answer>(`/trail/${id}?twice=${twice}`),
  clearTrail: () => call<void>("/trail", { method: "DELETE" }),
};

/** Send files with progress; XMLHttpRequest, since fetch does not tell how much has gone. */
export function upload(files: File[], onProgress: (share: number) => void): Promise<Job> {
  const form = new FormData();
  for (const file of files) form.append("files", file, file.name);
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/api/v1/uploads");
    request.upload.onprogress = (event) => onProgress(event.total ? event.loaded / event.total : 0);
    request.onerror = () => reject(new Problem("The files did not arrive.", "Check that Gumption is still running, then send them again."));
    request.onload = () => {
      if (request.status === 200) resolve(JSON.parse(request.responseText) as Job);
      else void problemOf(new Response(request.responseText, { status: request.status })).then(reject);
    };
    request.send(form);
  });
}
