/** Calls to the server, typed by its OpenAPI description; every failure is a Problem that a person can read. */
import { workspaceHere } from "../ui/location";
import { inStyle } from "../ui/style";
import type { components } from "./schema";

type Schemas = components["schemas"];
export type Workspace = Schemas["WorkspaceOut"];
/** A workspace as it stands among the others. */
export type Shelved = Schemas["ShelvedOut"];
export type TableEntry = Schemas["TableOut"];
export type Column = Schemas["Column"];
export type Relationship = Schemas["Relationship"];
export type Rows = Schemas["RowsOut"];
export type Job = Schemas["JobOut"];
export type Replacement = Schemas["ReplacementOut"];
export type Recipe = Schemas["Recipe"];
export type ShapeStep = NonNullable<Recipe["steps"]>[number];
export type Note = Schemas["Note"];
export type Look = Schemas["Look"];
export type Suggestion = Schemas["Suggestion"];
export type TableMeaning = Schemas["TableMeaning"];
export type ColumnMeaning = Schemas["ColumnMeaning"];
export type Role = Schemas["Role"];
export type Type = Schemas["Type"];
export type Fetch = Schemas["FetchIn"];
export type Series = Schemas["SeriesOfFeed"];
export type Join = Schemas["JoinIn"];
export type Joins = Schemas["JoinsOut"];
export type Guide = Schemas["GuideOut"];
export type Gloss = Schemas["GlossOut"];
export type GlossResult = Schemas["GlossResult"];
export type Brief = Schemas["BriefOut"];
export type Completion = Schemas["CompletionOut"];
export type Answered = Schemas["AnsweredOut"];
export type Asks = Schemas["AsksOut"];
/** A question of the trail by how it went: answered, asked back, declined, or told of the data themselves. */
export type Answer = Answered | Asks | Schemas["DeclinedOut"] | Schemas["ToldOut"];
export type Term = Schemas["Term"];
export type TermLook = Schemas["TermLookOut"];
export type TermKind = Schemas["KindOut"]["kind"];
export type Defined = Schemas["TermOut"];
export type Meaning = Schemas["OptionOut"];
/** What a person says of a question: the reading taken and whether it holds from now on, what words mean, and the entry that it takes the place of. */
export type Said = { choice?: number; remember?: boolean; terms?: Term[]; asked_by?: number | null };
/** A step of an answer, and the form by which it is changed by hand. */
export type Step = Schemas["StepOut"];
export type Edit = Schemas["EditIn"]["edit"];
export type StepForm = Schemas["Form"];
export type StepKind = StepForm["step"];
export type Slot = Schemas["Slot"];
export type Option = Schemas["Option"];
export type Filled = Schemas["Filled"];
export type Worked = Schemas["WorkedOut"];
export type Alternative = Schemas["AlternativeOut"];
export type Lesson = Schemas["LessonOut"];
export type Field = Schemas["FieldOut"];
export type TheirResult = Schemas["TheirSqlOut"];
export type Dialect = Schemas["DialectIn"]["dialect"];
export type Check = Schemas["CheckOut"];
export type TrailEntry = Schemas["TrailOut"];
export type Remark = Schemas["RemarkOut"];
/** Which rows of a table are wanted, and in which order. */
export type RowsView = { sort: string | null; descending: boolean; filter: string };
/** The column that rows are in the order of. */
export type Order = { column: string; descending: boolean };
/** The folio: its pages in brief, and one with all that stands on it. */
export type Folio = Schemas["FolioOut"];
export type FolioPage = Schemas["FolioPageOut"];
export type PageBrief = Schemas["PageBriefOut"];
export type Part = Schemas["PartOut"];
export type Kept = Schemas["KeptOut"];
export type Watch = Schemas["Watch"];
export type Schedule = NonNullable<FolioPage["schedule"]>;
/** What a page can be saved as. */
export type PageForm = "html" | "pdf" | "xlsx" | "md" | "ipynb" | "py" | "sql" | "json";
export type Cell = string | number | boolean | null;

export class Problem extends Error {
  constructor(
    readonly problem: string,
    readonly advice: string,
    /** Of the answer that said so; 0 where none came. */
    readonly status = 0,
    /** What would have done instead of what was given. */
    readonly accepted: string[] = [],
  ) {
    super(`${problem} ${advice}`.trim());
  }
}

const ROOT = "/api/v1/workspaces";

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`${ROOT}${path}`, inStyle(init));
  } catch {
    throw new Problem("The server does not answer.", "Check that Gumption is still running, then try again.");
  }
  if (!response.ok) throw await problemOf(response);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

async function problemOf(response: Response): Promise<Problem> {
  try {
    const body = (await response.json()) as Schemas["Problem"];
    return new Problem(body.problem, body.advice ?? "", response.status, body.accepted);
  } catch {
    return new Problem(
      `The server failed (${response.status}).`,
      "Its log has the details; try again.",
      response.status,
    );
  }
}

const sent = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify(body),
});

/** What can be done in the workspace of that number. */
export const apiOf = (workspace: () => number) => {
  const here = (path: string) => `/${workspace()}${path}`;
  return {
    workspace: () => call<Workspace>(here("")),
    opened: () => call<void>(here("/opened"), { method: "PUT" }),
    setAsOf: (asOf: string | null) => call<Workspace>(here("/as-of"), sent("PUT", { as_of: asOf })),
    rows: (table: string, offset: number, limit: number, view: RowsView) =>
      call<Rows>(
        here(
          `/tables/${encodeURIComponent(table)}/rows?${new URLSearchParams({ offset: String(offset), limit: String(limit), filter: view.filter, ...(view.sort ? { sort: view.sort, descending: String(view.descending) } : {}) })}`,
        ),
      ),
    look: (table: string) => call<Look>(here(`/tables/${encodeURIComponent(table)}/look`)),
    worth: (table: string, run = "") =>
      call<Remark[]>(here(`/tables/${encodeURIComponent(table)}/worth?${new URLSearchParams({ run })}`)),
    fileOf: (table: string, form: "csv" | "parquet") =>
      ROOT + here(`/tables/${encodeURIComponent(table)}/file?form=${form}`),
    pictures: () => call<string[]>(here("/pictures")),
    pictureNamed: (name: string) => ROOT + here(`/pictures/${encodeURIComponent(name)}`),
    removePicture: (name: string) => call<void>(here(`/pictures/${encodeURIComponent(name)}`), { method: "DELETE" }),
    pictureAt: (address: string) => ROOT + here(`/picture?${new URLSearchParams({ address })}`),
    fileOfAnswer: (id: number, form: "csv" | "xlsx" | "parquet" | "json" = "csv") =>
      ROOT + here(`/trail/${id}/file?form=${form}`),
    setRecipe: (table: string, recipe: Recipe) =>
      call<Job>(here(`/tables/${encodeURIComponent(table)}/recipe`), sent("PUT", recipe)),
    setMeaning: (table: string, meaning: TableMeaning) =>
      call<void>(here(`/tables/${encodeURIComponent(table)}/meaning`), sent("PUT", meaning)),
    sendDictionary: (table: string, file: File) => {
      const form = new FormData();
      form.append("file", file, file.name);
      return call<string[]>(here(`/tables/${encodeURIComponent(table)}/dictionary`), { method: "POST", body: form });
    },
    checkFormula: (table: string, formula: string) =>
      call<string>(here(`/tables/${encodeURIComponent(table)}/formula?${new URLSearchParams({ formula })}`)),
    joins: (table: string) => call<Joins>(here(`/tables/${encodeURIComponent(table)}/joins`)),
    decideJoin: (join: Join) => call<void>(here("/joins"), sent("PUT", join)),
    guide: () => call<Guide>(here("/guide")),
    removeTable: (table: string) => call<void>(here(`/tables/${encodeURIComponent(table)}`), { method: "DELETE" }),
    removeEverything: () => call<void>(here("/contents"), { method: "DELETE" }),
    replaceBy: (id: string) => call<string>(here(`/replacements/${id}`), { method: "POST" }),
    dropReplacement: (id: string) => call<void>(here(`/replacements/${id}`), { method: "DELETE" }),
    restore: (table: string, version: number) =>
      call<void>(here(`/tables/${encodeURIComponent(table)}/versions/${version}`), { method: "POST" }),
    paste: (name: string, content: string) => call<Job>(here("/pasted"), sent("POST", { name, content })),
    fetch: (fetched: Fetch) => call<Job>(here("/fetched"), sent("POST", fetched)),
    series: (about: string) => call<Series[]>(here(`/feed?${new URLSearchParams({ about })}`)),
    fetchSeries: (code: string) =>
      call<Job>(here("/fetched"), sent("POST", { origin: { kind: "feed", code }, secret: null, name: "" })),
    keepGroups: (number: number) => call<Job>(here(`/trail/${number}/kept`), { method: "POST" }),
    fetchAgain: (table: string) => call<Job>(here(`/tables/${encodeURIComponent(table)}/fetched`), { method: "POST" }),
    jobs: () => call<Job[]>(here("/jobs")),
    job: (id: string) => call<Job>(here(`/jobs/${id}`)),
    stopJob: (id: string) => call<void>(here(`/jobs/${id}`), { method: "DELETE" }),
    brief: (question: string, signal: AbortSignal) =>
      call<Brief>(here("/briefs"), { ...sent("POST", { question }), signal }),
    gloss: (question: string, follows: number | null, terms: Term[], signal: AbortSignal) =>
      call<GlossResult>(here("/gloss"), { ...sent("POST", { question, follows, terms }), signal }),
    ask: (question: string, follows: number | null, run: string, said?: Said) =>
      call<Answer>(here("/questions"), sent("POST", { question, follows, run, ...said })),
    words: (question: string, follows: number | null, terms: Term[], start: number, end: number) =>
      call<Meaning[]>(here("/words"), sent("POST", { question, follows, terms, start, end })),
    terms: () => call<Defined[]>(here("/terms")),
    lookAt: (term: Term, signal: AbortSignal) => call<TermLook>(here("/terms/look"), { ...sent("POST", term), signal }),
    kindsOfTerms: () => call<Record<string, Schemas["KindOut"]>>(here("/terms/kinds")),
    unread: () => call<Schemas["UnreadOut"][]>(here("/terms/unread")),
    termsFile: () => ROOT + here("/terms/file"),
    takeTerms: (file: File) => {
      const form = new FormData();
      form.append("file", file, file.name);
      return call<Defined[]>(here("/terms/file"), { method: "POST", body: form });
    },
    define: (term: Term) => call<Defined>(here("/terms"), sent("POST", term)),
    undefine: (id: number) => call<void>(here(`/terms/${id}`), { method: "DELETE" }),
    next: (entry: number) => call<string[]>(here(`/trail/${entry}/next`)),
    lessons: () => call<Lesson[]>(here("/lessons")),
    forget: (id: number) => call<void>(here(`/lessons/${id}`), { method: "DELETE" }),
    mark: (entry: number, right: boolean, because = "") =>
      call<Lesson>(here(`/trail/${entry}/mark`), sent("POST", { right, because })),
    /** How far a piece of work is, in words; null once it is over. */
    run: (run: string) => call<Schemas["RunOut"]>(here(`/runs/${run}`)),
    /** Stop a piece of work; one that ended in the meantime needs no stopping. */
    stop: (run: string) => call<void>(here(`/runs/${run}/stop`), { method: "POST" }).catch(() => undefined),
    planSql: (plan: Answered["plan"], dialect: Dialect) =>
      call<{ sql: string }>(here("/plans/sql"), sent("POST", { plan, dialect })),
    runSql: (sql: string, run: string) => call<TheirResult>(here("/sql"), sent("POST", { sql, run })),
    trail: (most: number) => call<TrailEntry[]>(here(`/trail?most=${most}`)),
    /** The same answer drawn another way: a kind of chart and how it is to look. */
    drawn: (id: number, wish: string) => call<Answer>(here(`/trail/${id}?${new URLSearchParams({ drawn: wish })}`)),
    /** Some rows of an answer, in the order of one of its columns where that is wanted. */
    answerRows: (id: number, offset: number, limit: number, order: Order | null) =>
      call<Schemas["PageOut"]>(
        here(
          `/trail/${id}/rows?${new URLSearchParams({ offset: String(offset), limit: String(limit), ...(order ? { sort: order.column, descending: String(order.descending) } : {}) })}`,
        ),
      ),
    /** For each column what its rows add up to, where that means something. */
    totals: (id: number) => call<(string | null)[]>(here(`/trail/${id}/totals`)),
    /** The rows that a row of an answer, or of a cross table one of its cells, was worked out from. */
    behind: (id: number, row: number, column: string) =>
      call<Worked>(here(`/trail/${id}/behind?${new URLSearchParams({ row: String(row), column })}`)),
    stepForm: (id: number, path: number[], add?: StepKind) =>
      call<StepForm>(here(`/trail/${id}/steps/form?path=${path.join(".")}${add ? `&add=${add}` : ""}`)),
    /** The rows as they come out of a step. */
    stepRows: (id: number, path: number[]) => call<Worked>(here(`/trail/${id}/steps/rows?path=${path.join(".")}`)),
    edit: (id: number, edit: Edit, run: string) =>
      call<Answer>(here(`/trail/${id}/steps`), sent("POST", { edit, run })),
    others: (id: number) => call<Alternative[]>(here(`/trail/${id}/others`)),
    entry: (id: number, twice = false) => call<Answer>(here(`/trail/${id}?twice=${twice}`)),
    /** Star an entry of the trail, name it, or put it elsewhere among its neighbours. */
    markEntry: (id: number, said: Pick<TrailEntry, "starred" | "title" | "place">) =>
      call<void>(here(`/trail/${id}`), sent("PUT", said)),
    dropEntry: (id: number) => call<void>(here(`/trail/${id}`), { method: "DELETE" }),
    folio: () => call<Folio>(here("/folio")),
    folioPage: (page: number, working: number | null) =>
      call<FolioPage>(here(`/folio/${page}${working ? `?working=${working}` : ""}`)),
    newPage: (title: string) => call<FolioPage>(here("/folio"), sent("POST", { title })),
    pageOfTrail: (title: string, entries: number[], headings: Record<number, string>) =>
      call<FolioPage>(here("/folio/from-trail"), sent("POST", { title, entries, headings })),
    takePage: (file: File) =>
      call<FolioPage>(here("/folio/file"), {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: file,
      }),
    workEveryPage: (run: string) => call<Folio>(here("/folio/work"), sent("POST", { run })),
    renamePage: (page: number, title: string) => call<FolioPage>(here(`/folio/${page}`), sent("PUT", { title })),
    copyPage: (page: number, title: string) => call<FolioPage>(here(`/folio/${page}/copy`), sent("POST", { title })),
    /** Deleted, it can be had back; for good, it cannot. */
    deletePage: (page: number, forGood = false) =>
      call<void>(here(`/folio/${page}?for_good=${forGood}`), { method: "DELETE" }),
    restorePage: (page: number) => call<FolioPage>(here(`/folio/${page}/restored`), { method: "POST" }),
    schedulePage: (page: number, schedule: Schedule | null) =>
      call<FolioPage>(here(`/folio/${page}/schedule`), sent("PUT", { schedule })),
    putOnPage: (page: number, part: Schemas["NewPartIn"]) =>
      call<FolioPage>(here(`/folio/${page}/parts`), sent("POST", part)),
    changePart: (page: number, part: number, said: Schemas["PartIn"]) =>
      call<FolioPage>(here(`/folio/${page}/parts/${part}`), sent("PUT", said)),
    dropPart: (page: number, part: number) =>
      call<FolioPage>(here(`/folio/${page}/parts/${part}`), { method: "DELETE" }),
    orderParts: (page: number, parts: number[]) =>
      call<FolioPage>(here(`/folio/${page}/order`), sent("PUT", { parts })),
    workPage: (page: number, parts: number[] | null, run: string) =>
      call<FolioPage>(here(`/folio/${page}/work`), sent("POST", { parts, run })),
    mendPart: (page: number, part: number) =>
      call<FolioPage>(here(`/folio/${page}/parts/${part}/mended`), { method: "POST" }),
    /** The question of the trail that a kept answer can be gone on from. */
    openPart: (page: number, part: number) =>
      call<{ entry: number }>(here(`/folio/${page}/parts/${part}/opened`), { method: "POST" }),
    linkPage: (page: number, days: number, part: number | null) =>
      call<FolioPage>(here(`/folio/${page}/links`), sent("POST", { days, part })),
    withdrawLink: (page: number, token: string) =>
      call<FolioPage>(here(`/folio/${page}/links/${token}`), { method: "DELETE" }),
    fileOfPage: (page: number, form: PageForm, working: number | null, part: number | null = null) =>
      ROOT +
      here(`/folio/${page}/file?form=${form}${working ? `&working=${working}` : ""}${part ? `&part=${part}` : ""}`),
    feedOfFolio: () => ROOT + here("/folio/feed.atom"),
    clearTrail: () => call<void>(here("/trail"), { method: "DELETE" }),
  };
};

/** What can be done in the workspace that is open. */
export const api = apiOf(workspaceHere);

/** What can be done with whole workspaces. */
export const shelf = {
  all: () => call<Shelved[]>(""),
  make: (title: string) => call<Shelved>("", sent("POST", { title })),
  demo: () => call<Shelved>("/demo", { method: "POST" }),
  takeUp: (file: File) => call<Shelved>("/saved", { method: "POST", body: file }),
  rename: (id: number, title: string) => call<Shelved>(`/${id}`, sent("PUT", { title })),
  archive: (id: number, archived: boolean) => call<Shelved>(`/${id}/archived`, sent("PUT", { archived })),
  copy: (id: number, title: string) => call<Shelved>(`/${id}/copy`, sent("POST", { title })),
  demoAfresh: (id: number) => call<Shelved>(`/${id}/demo`, { method: "POST" }),
  savedFile: (id: number) => `${ROOT}/${id}/saved`,
  remove: (id: number) => call<void>(`/${id}`, { method: "DELETE" }),
};
