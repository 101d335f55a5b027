/** What columns are for, in words. */
import type { Role } from "../../api/client";

export const ROLE_WORDS: Record<Role, string> = {
  identifier: "identifier",
  link: "link to another table",
  name: "name",
  category: "category",
  person: "person",
  place: "place",
  date: "date",
  money: "money, summed",
  quantity: "quantity, summed",
  score: "measure, averaged",
  percentage: "per cent, averaged",
  code: "code",
  flag: "yes or no",
  text: "free text",
};

export const ROLES: readonly Role[] = [
  "identifier",
  "link",
  "name",
  "category",
  "person",
  "place",
  "date",
  "money",
  "quantity",
  "score",
  "percentage",
  "code",
  "flag",
  "text",
];
