/** Where the person is, kept in the address after #: tables/NAME or ask/NUMBER. */
import { useSyncExternalStore } from "react";

export type Place =
  { room: "tables"; table: string | null } | { room: "ask"; entry: number | null; draft: string | null };

export function placeOf(hash: string): Place {
  const [room, rest = ""] = hash.replace(/^#/, "").split(/\/(.*)/);
  if (room === "tables") return { room: "tables", table: rest ? decodeURIComponent(rest) : null };
  const draft = rest.startsWith("?") ? decodeURIComponent(rest.slice(1)) : null;
  const number = Number(rest);
  return { room: "ask", entry: draft === null && rest && Number.isInteger(number) ? number : null, draft };
}

const subscribe = (changed: () => void) => {
  window.addEventListener("hashchange", changed);
  return () => window.removeEventListener("hashchange", changed);
};

export const useHash = () => useSyncExternalStore(subscribe, () => window.location.hash);

export const go = {
  table: (name: string) => (window.location.hash = `tables/${encodeURIComponent(name)}`),
  tables: () => (window.location.hash = "tables"),
  ask: () => (window.location.hash = "ask"),
  entry: (id: number) => (window.location.hash = `ask/${id}`),
  draft: (question: string) => (window.location.hash = `ask/?${encodeURIComponent(question)}`),
};
