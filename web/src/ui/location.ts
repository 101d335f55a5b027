/** Where the person is, kept in the address: /workspaces, /w/3/tables/NAME, /w/3/ask/12, /w/3/report/12+13, /w/3/glossary/WORD, /w/3/folio/4?working=9, /w/3/ask?a%20draft. */
import { useSyncExternalStore } from "react";

/** Stands in the address before a word that is not made yet; no word holds a slash. */
export const NEW_WORD = "/new ";

export type InWorkspace =
  | { room: "tables"; workspace: number; table: string | null }
  | { room: "glossary"; workspace: number; word: string | null; text: string | null }
  | { room: "folio"; workspace: number; page: number | null; working: number | null }
  | { room: "report"; workspace: number; entries: number[]; headings: Record<number, string> }
  | { room: "ask"; workspace: number; entry: number | null; draft: string | null };
export type Place = { room: "start" } | { room: "workspaces" } | { room: "open"; workspace: number } | InWorkspace;

export function placeOf(path: string, search = ""): Place {
  if (path === "/workspaces") return { room: "workspaces" };
  const found = /^\/w\/(\d+)(?:\/(tables|ask|glossary|folio|report)(?:\/(.*))?)?\/?$/.exec(path);
  if (!found) return { room: "start" };
  const [, number, room, rest = ""] = found;
  const workspace = Number(number);
  if (room === "tables") return { room, workspace, table: rest ? decodeURIComponent(rest) : null };
  if (room === "folio") {
    const working = Number(new URLSearchParams(search).get("working")) || null;
    return { room, workspace, page: Number(rest) || null, working };
  }
  if (room === "report") {
    const headings = Object.fromEntries(new URLSearchParams(search));
    return { room, workspace, entries: rest.split("+").map(Number).filter(Boolean), headings };
  }
  if (room !== "ask" && room !== "glossary") return { room: "open", workspace };
  const draft = search.startsWith("?") && search.length > 1 ? decodeURIComponent(search.slice(1)) : null;
  if (room === "glossary") return { room, workspace, word: rest ? decodeURIComponent(rest) : null, text: draft };
  return { room, workspace, entry: draft === null && /^\d+$/.test(rest) ? Number(rest) : null, draft };
}

const here = () => placeOf(window.location.pathname, window.location.search);

/** The workspace that is open, which every call is about. */
export function workspaceHere(): number {
  const place = here();
  return "workspace" in place ? place.workspace : 0;
}

const listeners = new Set<() => void>();
const tell = () => listeners.forEach((listener) => listener());

const subscribe = (changed: () => void) => {
  listeners.add(changed);
  window.addEventListener("popstate", changed);
  return () => {
    listeners.delete(changed);
    window.removeEventListener("popstate", changed);
  };
};

const address = () => window.location.pathname + window.location.search;

export function usePlace(): Place {
  useSyncExternalStore(subscribe, address);
  return here();
}

function to(path: string, replace = false): void {
  if (path === address()) return;
  if (replace) window.history.replaceState(null, "", path);
  else window.history.pushState(null, "", path);
  tell();
}

const inside = (path: string) => to(`/w/${workspaceHere()}/${path}`);

export const go = {
  workspaces: () => to("/workspaces"),
  /** Into a workspace: to its tables while it has none, else to ask. */
  into: (workspace: number, room: "ask" | "tables", replace = false) => to(`/w/${workspace}/${room}`, replace),
  table: (name: string) => inside(`tables/${encodeURIComponent(name)}`),
  tables: () => inside("tables"),
  ask: () => inside("ask"),
  glossary: (word?: string) => inside(word ? `glossary/${encodeURIComponent(word)}` : "glossary"),
  /** To a word that is to be made, with what it is to mean. */
  newWord: (word: string, text = "") =>
    inside(`glossary/${encodeURIComponent(`${NEW_WORD}${word}`)}${text ? `?${encodeURIComponent(text)}` : ""}`),
  /** To several answers under one another, with the headings that some of them stand under. */
  report: (ids: number[], headings: Record<number, string>) => {
    const under = new URLSearchParams(Object.entries(headings)).toString();
    inside(`report/${ids.join("+")}${under && `?${under}`}`);
  },
  /** To a page of the folio, as it stands or as it stood at an earlier working. */
  folio: (page?: number | null, working?: number | null) =>
    inside(`folio${page ? `/${page}` : ""}${working ? `?working=${working}` : ""}`),
  entry: (id: number) => inside(`ask/${id}`),
  draft: (question: string) => inside(`ask?${encodeURIComponent(question)}`),
};
