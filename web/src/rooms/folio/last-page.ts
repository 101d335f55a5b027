/** The page that answers were kept on last, for this person in this browser. */
import { workspaceHere } from "../../ui/location";

const place = () => `gumption.page.${workspaceHere()}`;

export function lastPage(): number | null {
  return Number(localStorage.getItem(place())) || null;
}

export function setLastPage(page: number): void {
  localStorage.setItem(place(), String(page));
}
