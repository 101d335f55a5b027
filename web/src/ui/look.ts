/** The paper by day or by night, as the person or else the system has it. */
import { useSyncExternalStore } from "react";

export type Look = "day" | "night" | "system";

const KEPT = "gumption look";
const listeners = new Set<() => void>();

const chosen = (): Look => {
  const kept = localStorage.getItem(KEPT);
  return kept === "day" || kept === "night" ? kept : "system";
};

const darkAround = () => window.matchMedia("(prefers-color-scheme: dark)");

const atNight = () => chosen() === "night" || (chosen() === "system" && darkAround().matches);

/** Show the page in the look that is wanted now. */
export function showLook(): void {
  document.documentElement.dataset.look = atNight() ? "night" : "day";
  listeners.forEach((listener) => listener());
}

/** Follow what the system says as long as the page is there. */
export const followLook = (): void => darkAround().addEventListener("change", showLook);

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
