/** What a table and its columns mean: names, descriptions, roles, types; typed in, or read from a data dictionary. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  api,
  type Column,
  type ColumnMeaning,
  type Role,
  type TableEntry,
  type TableMeaning,
  type Type,
} from "../../api/client";
import { follow } from "../../api/work";
import { plural } from "../../ui/format";
import { Button, Choose, PickFiles, ProblemNote, TextField, Window } from "../../ui/primitives";
import { typed } from "./recipe";
import { ROLE_WORDS, ROLES } from "./roles";

const TYPES: readonly Type[] = [
  "text",
  "integer",
  "decimal",
  "float",
  "boolean",
  "date",
  "time",
  "timestamp",
  "duration",
];
const AGGREGATES = ["", "sum", "mean", "median", "min", "max", "count", "distinct"] as const;
type Aggregate = (typeof AGGREGATES)[number];

const list = (text: string) =>
  text
    .split(",")
    .map((s) => s.trim())
    .filter(Boolean);

function useSaved(entry: TableEntry, onClose: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (meaning: TableMeaning) => api.setMeaning(entry.table.name, meaning),
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
}

export function ColumnWindow({ entry, column, onClose }: { entry: TableEntry; column: Column; onClose: () => void }) {
  const said: Partial<ColumnMeaning> = entry.meaning.columns?.[column.name] ?? {};
  const found = entry.found.columns.find((c) => c.name === column.name);
  const guess = entry.guesses[column.name];
  const [display, setDisplay] = useState(said.display ?? "");
  const [description, setDescription] = useState(column.description ?? "");
  const [synonyms, setSynonyms] = useState((said.synonyms ?? []).join(", "));
  const [role, setRole] = useState<Role>(column.role);
  const [aggregate, setAggregate] = useState<Aggregate>(said.aggregate ?? "");
  const [unit, setUnit] = useState(column.unit ?? "");
  const [digits, setDigits] = useState(said.digits == null ? "" : String(said.digits));
  const [type, setType] = useState<Type>(column.type);
  const save = useSaved(entry, onClose);
  const reread = useMutation({
    mutationFn: () => api.setRecipe(entry.table.name, typed(entry, column.name, type)),
    onSuccess: (job) => follow(job),
  });
  const submit = () => {
    if (type !== column.type) reread.mutate();
    const meaning: ColumnMeaning = {
      display,
      description: description === (found?.description ?? "") ? "" : description,
      synonyms: list(synonyms),
      role: role === found?.role ? null : role,
      aggregate: aggregate || null,
      unit: unit === (found?.unit ?? "") ? null : unit,
      digits: digits === "" ? null : Number(digits),
    };
    save.mutate({ ...entry.meaning, columns: { ...entry.meaning.columns, [column.name]: meaning } });
  };
  return (
    <Window
      open
      onClose={onClose}
      title={column.name}
      about={
        guess
          ? guess.dark
            ? `“${guess.words}”? Part of this name says nothing by itself; say what it means.`
            : `A guess at the whole name: ${guess.words}`
          : "What this column means, and what may be done with it."
      }
    >
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          submit();
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <TextField
            label="Display name"
            value={display}
            placeholder={guess && !guess.dark ? guess.words : ""}
            onChange={(e) => setDisplay(e.target.value)}
          />
          <TextField
            label="Other names, parted by commas"
            value={synonyms}
            onChange={(e) => setSynonyms(e.target.value)}
          />
        </div>
        <TextField label="What it means" value={description} onChange={(e) => setDescription(e.target.value)} />
        <div className="grid grid-cols-2 gap-3">
          <Choose
            label="Role"
            value={role}
            options={ROLES.map((r) => [r, ROLE_WORDS[r]] as const)}
            onChange={setRole}
          />
          <Choose
            label="Put together by"
            value={aggregate}
            options={AGGREGATES.map((a) => [a, a || "its role"] as const)}
            onChange={setAggregate}
          />
          <Choose label="Type" value={type} options={TYPES.map((t) => [t, t] as const)} onChange={setType} />
          <div className="grid grid-cols-2 gap-3">
            <TextField label="Unit" value={unit} placeholder="GBP, kg, %" onChange={(e) => setUnit(e.target.value)} />
            <TextField
              label="Digits"
              type="number"
              min={0}
              max={10}
              value={digits}
              onChange={(e) => setDigits(e.target.value)}
            />
          </div>
        </div>
        {(save.error ?? reread.error) && <ProblemNote error={save.error ?? reread.error} />}
        <div className="flex justify-end">
          <Button type="submit" disabled={save.isPending}>
            Save
          </Button>
        </div>
      </form>
    </Window>
  );
}

export function TableWindow({ entry, onClose }: { entry: TableEntry; onClose: () => void }) {
  const client = useQueryClient();
  const { meaning, table } = entry;
  const [display, setDisplay] = useState(meaning.display ?? "");
  const [description, setDescription] = useState(meaning.description ?? "");
  const [synonyms, setSynonyms] = useState((meaning.synonyms ?? []).join(", "));
  const [time, setTime] = useState(meaning.time ?? "");
  const [naming, setNaming] = useState(meaning.naming ?? "");
  const [pasted, setPasted] = useState("");
  const save = useSaved(entry, onClose);
  const dictionary = useMutation({
    mutationFn: (file: File) => api.sendDictionary(table.name, file),
    onSuccess: () => client.invalidateQueries(),
  });
  const dates = table.columns.filter((c) => c.type === "date" || c.type === "timestamp");
  const options = (columns: Column[]) =>
    [["", "found by itself"], ...columns.map((c) => [c.name, c.name])] as [string, string][];
  return (
    <Window open onClose={onClose} title={`What ${table.name} is`}>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate({
            ...meaning,
            display,
            description,
            synonyms: list(synonyms),
            time: time || null,
            naming: naming || null,
          });
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <TextField label="Display name" value={display} onChange={(e) => setDisplay(e.target.value)} />
          <TextField
            label="Ask about it by, parted by commas"
            value={synonyms}
            placeholder="visit, appointment"
            onChange={(e) => setSynonyms(e.target.value)}
          />
        </div>
        <TextField label="What it holds" value={description} onChange={(e) => setDescription(e.target.value)} />
        <div className="grid grid-cols-2 gap-3">
          <Choose label="Its date" value={time} options={options(dates)} onChange={setTime} />
          <Choose label="Rows are called by" value={naming} options={options(table.columns)} onChange={setNaming} />
        </div>
        {save.isError && <ProblemNote error={save.error} />}
        <div className="flex justify-end">
          <Button type="submit" disabled={save.isPending}>
            Save
          </Button>
        </div>
      </form>
      <h3 className="mt-5 border-t border-rule pt-4 font-medium">What its columns mean</h3>
      <p className="mt-1 text-soft">
        <PickFiles
          label="Choose a data dictionary"
          accept=".csv,.tsv,.txt,.xlsx,.xls,.ods"
          onPick={([file]) => file && dictionary.mutate(file)}
        >
          Choose a data dictionary
        </PickFiles>
        , a CSV or workbook of two or three columns: name, meaning, other names. Or paste one:
      </p>
      <textarea
        aria-label="Data dictionary"
        rows={4}
        value={pasted}
        onChange={(e) => setPasted(e.target.value)}
        placeholder={"column,meaning\nqty,number of packs sold"}
        className="mt-1 block w-full rounded border border-rule bg-paper px-2 py-1 font-mono text-xs"
      />
      <div className="mt-2 flex items-baseline justify-end gap-3">
        {dictionary.isSuccess && (
          <span role="status" className="text-holds">
            {plural(dictionary.data.length, "column")} described
          </span>
        )}
        <Button
          disabled={!pasted.trim() || dictionary.isPending}
          onClick={() => dictionary.mutate(new File([pasted], "pasted.csv", { type: "text/csv" }))}
        >
          Read it
        </Button>
      </div>
      {dictionary.isError && <ProblemNote error={dictionary.error} />}
    </Window>
  );
}
