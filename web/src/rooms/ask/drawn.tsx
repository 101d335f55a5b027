/** The chart of an answer, drawn another way where a person wants it, and what can be saved of both. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";
import { api, type Answered } from "../../api/client";
import { useKeys } from "../../ui/keys";
import { Button, MENU, MENU_ITEM, ProblemNote } from "../../ui/primitives";
import { KeepOn } from "../folio/keep-on";
import { Chart, type Drawn, type Marked } from "./chart";
import { keep, keepText } from "./keep";
import { MarkMenu } from "./mark-menu";
import { pageOf } from "./page-out";

type Kind = Answered["chart_kinds"][number];

const NAMES: Record<Kind, string> = {
  any: "chart",
  bar: "bars",
  line: "line",
  area: "area",
  pie: "pie",
  dots: "dots",
  heat: "heat map",
  histogram: "histogram",
  box: "boxes",
  map: "map",
  bridge: "bridge",
  spans: "intervals",
  table: "table only",
};
const KEYS: Partial<Record<Kind, string>> = {
  bar: "B",
  line: "L",
  area: "A",
  pie: "P",
  dots: "D",
  heat: "H",
  histogram: "G",
  box: "X",
  bridge: "I",
  spans: "V",
};

/** How a kind is to look: the kinds that it goes with, and how few and how many groups these have then. */
type Look = { look: string; name: string; of: readonly Kind[]; groups: number; most?: number; key?: string };
const LOOKS: readonly Look[] = [
  { look: "ordered", name: "largest first", of: ["bar"], groups: 1, most: 1 },
  { look: "rest", name: "the rest as one", of: ["bar"], groups: 1, most: 1 },
  { look: "upright", name: "upright", of: ["bar"], groups: 1 },
  { look: "stacked", name: "stacked", of: ["bar", "area"], groups: 2, key: "S" },
  { look: "whole", name: "to 100%", of: ["bar", "area"], groups: 2, key: "W" },
  { look: "panels", name: "a panel each", of: ["bar", "line"], groups: 2, key: "M" },
  { look: "labels", name: "labels", of: ["line", "dots", "bar"], groups: 1, key: "N" },
  { look: "log", name: "log scale", of: ["bar", "line", "dots"], groups: 1, key: "O" },
  { look: "average", name: "average", of: ["bar", "line"], groups: 1 },
  { look: "trend", name: "trend", of: ["line", "dots"], groups: 1 },
];

/** A part of a chart that a column of the answer may be: the kinds that have it, of which columns, and of how many at least. */
type Part = { part: string; name: string; of: readonly Kind[]; numbers: boolean; least: number };
const PARTS: readonly Part[] = [
  { part: "across", name: "across", of: ["dots"], numbers: true, least: 3 },
  { part: "measure", name: "up", of: ["dots"], numbers: true, least: 3 },
  { part: "measure", name: "shown", of: ["bar", "line", "area", "pie", "heat", "histogram"], numbers: true, least: 2 },
  { part: "size", name: "size", of: ["dots"], numbers: true, least: 3 },
  { part: "colour", name: "colour", of: ["bar", "line", "area", "dots"], numbers: false, least: 2 },
];

/* Rows of which bars of their own can be drawn all. */
const FEW = 15;

export function Drawing({ answer, onFollow }: { answer: Answered; onFollow: (question: string) => void }) {
  const [marked, setMarked] = useState<Marked | null>(null);
  const [kind, setKind] = useState<Kind | null>(null);
  const [looks, setLooks] = useState<string[]>([]);
  const [parts, setParts] = useState<Record<string, number>>({});
  const drawn = useRef<Drawn | null>(null);
  const chosen = Object.entries(parts).map(([part, place]) => `${part}=${place}`);
  const plain = kind === null && looks.length === 0 && chosen.length === 0;
  const wish = plain ? "" : [kind ?? answer.chart_kind ?? "any", ...looks, ...chosen].join(" ");
  const other = useQuery({
    queryKey: ["drawn", answer.id, wish],
    queryFn: () => api.drawn(answer.id, wish),
    enabled: wish !== "" && kind !== "table",
    placeholderData: keepPreviousData,
  });
  const shown = wish !== "" && other.data?.status === "answered" ? other.data : answer;
  const now = kind === "table" ? "table" : (shown.chart_kind ?? "table");
  const choose = (next: Kind) => {
    setKind(next);
    setLooks([]);
    setParts({});
  };
  const toggle = (look: string) =>
    setLooks((held) => (held.includes(look) ? held.filter((l) => l !== look) : [...held, look]));
  const groups = answer.fields.filter((f) => !f.measures).length;
  const many = answer.rows.length > FEW;
  const possible = LOOKS.filter(
    (l) =>
      l.of.includes(now) &&
      groups >= l.groups &&
      groups <= (l.most ?? groups) &&
      (l.look !== "rest" || many) &&
      // Bars of one group have their numbers as they are.
      (l.look !== "labels" || now !== "bar" || groups > 1),
  );
  useKeys({
    // A kind that does not fit this answer types no letter into the question either.
    ...Object.fromEntries([...Object.values(KEYS), ...LOOKS.map((l) => l.key)].map((key) => [`Alt+${key}`, () => {}])),
    ...Object.fromEntries(
      answer.chart_kinds.flatMap((k) => (KEYS[k] ? [[`Alt+${KEYS[k]}`, () => choose(k)] as const] : [])),
    ),
    ...Object.fromEntries(possible.flatMap((l) => (l.key ? [[`Alt+${l.key}`, () => toggle(l.look)] as const] : []))),
    "Alt+T": () => (now === "table" ? choose(answer.chart_kind ?? answer.chart_kinds[0] ?? "any") : choose("table")),
  });
  const chart = now !== "table" ? shown.chart : null;
  const columns = (numbers: boolean) =>
    answer.fields.flatMap((f, place) => (f.measures === numbers ? [[place, f.label] as const] : []));
  const choosable = PARTS.filter((p) => p.of.includes(now) && columns(p.numbers).length >= p.least);
  return (
    <>
      <div className="mt-3 flex items-baseline gap-4">
        {answer.chart_kinds.length > 0 && (
          <div
            className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-xs text-soft"
            role="group"
            aria-label="How it is drawn"
          >
            {[...answer.chart_kinds, "table" as const].map((k) => (
              <Choice
                key={k}
                on={now === k}
                onClick={() => choose(k)}
                keys={k === "table" ? "Alt+T" : KEYS[k] && `Alt+${KEYS[k]}`}
              >
                {NAMES[k]}
              </Choice>
            ))}
            {possible.length > 0 && <span aria-hidden>·</span>}
            {possible.map((l) => (
              <Choice
                key={l.look}
                on={looks.includes(l.look)}
                onClick={() => toggle(l.look)}
                keys={l.key && `Alt+${l.key}`}
              >
                {l.name}
              </Choice>
            ))}
            {choosable.map((p) => (
              <ColumnChoice
                key={p.part}
                name={p.name}
                columns={columns(p.numbers)}
                chosen={parts[p.part] ?? null}
                onChoose={(place) =>
                  setParts(({ [p.part]: _, ...rest }) => (place === null ? rest : { ...rest, [p.part]: place }))
                }
              />
            ))}
          </div>
        )}
        <span className="ml-auto flex shrink-0 flex-wrap items-baseline justify-end gap-2">
          <KeepOn answer={answer} drawn={wish} />
          <Save answer={answer} chart={chart ?? null} drawn={() => drawn.current} />
        </span>
      </div>
      {other.isError && <ProblemNote error={other.error} />}
      {chart && (
        <div className="relative">
          <Chart spec={chart} label={answer.finding} onDrawn={(view) => (drawn.current = view)} onMarked={setMarked} />
          {marked && <MarkMenu answer={answer} marked={marked} onFollow={onFollow} onClose={() => setMarked(null)} />}
        </div>
      )}
      {shown.chart_note && now !== "table" && (
        <p className="mt-1 text-sm text-soft" data-testid="chart-note">
          {shown.chart_note}
        </p>
      )}
    </>
  );
}

/** Which column a part of the chart is; without a choice the one that fits. */
function ColumnChoice({
  name,
  columns,
  chosen,
  onChoose,
}: {
  name: string;
  columns: readonly (readonly [number, string])[];
  chosen: number | null;
  onChoose: (place: number | null) => void;
}) {
  return (
    <label className="flex items-baseline gap-1">
      {name}
      <select
        value={chosen ?? ""}
        onChange={(e) => onChoose(e.target.value === "" ? null : Number(e.target.value))}
        className="max-w-36 rounded border border-rule bg-paper px-1 py-0.5 text-ink"
      >
        <option value="">as it fits</option>
        {columns.map(([place, label]) => (
          <option key={place} value={place}>
            {label}
          </option>
        ))}
      </select>
    </label>
  );
}

function Choice({
  on,
  onClick,
  keys,
  children,
}: {
  on: boolean;
  onClick: () => void;
  keys?: string | undefined;
  children: string;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={keys}
      onClick={onClick}
      className={`border-b ${on ? "border-ink font-semibold text-ink" : "border-transparent hover:border-soft"}`}
    >
      {children}
    </button>
  );
}

/** Everything that an answer can be taken away as. */
function Save({
  answer,
  chart,
  drawn,
}: {
  answer: Answered;
  chart: Record<string, unknown> | null;
  drawn: () => Drawn | null;
}) {
  const rows = answer.rows.length > 0;
  const name =
    answer.question
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu)
      ?.join("-")
      .slice(0, 60) || "answer";
  const file = (form: "csv" | "xlsx" | "parquet" | "json", words: string) => (
    <DropdownMenu.Item asChild className={MENU_ITEM}>
      <a href={api.fileOfAnswer(answer.id, form)} download>
        {words}
      </a>
    </DropdownMenu.Item>
  );
  const picture = (form: "png" | "svg") =>
    void drawn()
      ?.picture(form)
      .then((url) => keep(url, `${name}.${form}`));
  const page = async () => {
    keepText(pageOf([answer], [(await drawn()?.svg()) ?? ""]), `${name}.html`);
  };
  if (!rows) return null;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Button className="text-xs">Save as …</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
          {file("csv", "CSV, all rows")}
          {file("xlsx", "Workbook with its proof (XLSX)")}
          {file("parquet", "Parquet")}
          {file("json", "JSON, all rows")}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void page()}>
            A page of its own (HTML)
          </DropdownMenu.Item>
          {chart && (
            <>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => picture("png")}>
                The chart as a picture (PNG)
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => picture("svg")}>
                The chart as a drawing (SVG)
              </DropdownMenu.Item>
              <DropdownMenu.Item
                className={MENU_ITEM}
                onSelect={() => keepText(JSON.stringify(chart, null, 1), `${name}.vl.json`)}
              >
                The chart’s specification (Vega-Lite)
              </DropdownMenu.Item>
            </>
          )}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => keepText(answer.sql, `${name}.sql`)}>
            The SQL
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => keepText(answer.python, `${name}.py`)}>
            The Python script
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
