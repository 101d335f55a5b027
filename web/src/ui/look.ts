/** The paper by day or by night, as the person or else the system has it. */
import { useSyncExternalStore } from "react";

export type Look = "day" | "night" | "system";

const KEPT = "gumption look";
const dark = window.matchMedia("(prefers-color-scheme: dark)");
const listeners = new Set<() => void>();

const chosen = (): Look => {
  const kept = localStorage.getItem(KEPT);
  return kept === "day" || kept === "night" ? kept : "system";
};

const atNight = () => chosen() === "night" || (chosen() === "system" && dark.matches);

/** Show the page in the look that is wanted now. */
export function showLook(): void {
  document.documentElement.dataset.look = atNight() ? "night" : "day";
  listeners.forEach((listener) => listener());
}

dark.addEventListener("change", showLook);

export function setLook(look: Look): void {
  if (look === "system") localStorage.removeItem(KEPT);
  else localStorage.setItem(KEPT, look);
  showLook();
}

const subscribe = (changed: () => void) => {
  listeners.add(changed);
  return () => void listeners.delete(changed);
};

export const useLook = () => useSyncExternalStore(subscribe, chosen);
export const useNight = () => useSyncExternalStore(subscribe, atNight);
