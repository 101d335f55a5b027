/** The form by which a step is changed, or added: made of what the server says there is to fill in. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import {
  api,
  type Answered,
  type Edit,
  type Filled,
  type Option,
  type Slot,
  type StepForm,
  type StepKind,
} from "../../api/client";
import { Busy, Button, Choose, Link, ProblemNote, TextField } from "../../ui/primitives";

type Value = string | string[];
type Row = Record<string, Value>;

export function StepFormView({
  answer,
  path,
  add,
  busy,
  problem,
  onApply,
  onClose,
}: {
  answer: Answered;
  path: number[];
  add: StepKind | undefined;
  busy: boolean;
  problem: unknown;
  onApply: (edit: Edit) => void;
  onClose: () => void;
}) {
  const form = useQuery({
    queryKey: ["step form", answer.id, path, add ?? "", answer.plan],
    queryFn: () => api.stepForm(answer.id, path, add),
  });
  return (
    <div
      className="mb-3 rounded border border-rule bg-paper p-3"
      role="presentation"
      onKeyDown={(e) => e.key === "Escape" && onClose()}
    >
      {form.isPending && <Busy>Opening…</Busy>}
      {form.isError && (
        <>
          <ProblemNote error={form.error} />
          <Link onClick={onClose}>Close</Link>
        </>
      )}
      {form.data && (
        <Fields
          form={form.data}
          busy={busy}
          problem={problem}
          verb={add ? "Add" : "Change"}
          onApply={(filled) => onApply({ act: add ? "add" : "change", path, step: form.data.step, filled })}
          onClose={onClose}
        />
      )}
    </div>
  );
}

function Fields({
  form,
  busy,
  problem,
  verb,
  onApply,
  onClose,
}: {
  form: StepForm;
  busy: boolean;
  problem: unknown;
  verb: string;
  onApply: (filled: Filled) => void;
  onClose: () => void;
}) {
  const [values, setValues] = useState<Row>(form.filled.values ?? {});
  const [rows, setRows] = useState<Row[]>(form.filled.rows);
  const [first] = form.filled.rows;
  const [asked, setAsked] = useState(false);
  const place = useRef<HTMLFormElement>(null);
  useEffect(() => place.current?.querySelector<HTMLElement>("select, input")?.focus(), []);
  const put = (n: number, row: Row) => setRows(rows.map((r, i) => (i === n ? row : r)));
  // What joins several rows says nothing of one.
  const slots = form.slots.filter((s) => s.key !== "together" || rows.length > 1);
  return (
    <form
      ref={place}
      aria-label={`${verb} this step`}
      className="space-y-2.5"
      onSubmit={(e) => {
        e.preventDefault();
        setAsked(true);
        onApply({ values, rows });
      }}
    >
      <SlotFields slots={slots} row={values} onChange={setValues} />
      {form.row.length > 0 &&
        rows.map((row, n) => (
          // Rows have no name of their own, and come and go at their place alone.
          <div key={n} className="border-l-2 border-rule pl-2">
            <SlotFields slots={form.row} row={row} onChange={(next) => put(n, next)} />
            {rows.length > 1 && (
              <Link className="text-xs" onClick={() => setRows(rows.filter((_, i) => i !== n))}>
                without this
              </Link>
            )}
          </div>
        ))}
      {form.row.length > 0 && (
        <Link className="text-xs" onClick={() => setRows([...rows, emptied(form, first)])}>
          {ANOTHER[form.step] ?? "and another"}
        </Link>
      )}
      {asked && problem != null && <ProblemNote error={problem} />}
      <div className="flex gap-2 pt-1">
        <Button type="submit" disabled={busy}>
          {busy ? "Working…" : verb}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </form>
  );
}

const ANOTHER: Partial<Record<StepKind, string>> = {
  keep: "another condition",
  group: "another figure",
  sort: "then by another",
};

/** A row more, like the first of its kind but saying nothing yet. */
function emptied(form: StepForm, like: Row | undefined): Row {
  return Object.fromEntries(
    [...form.row.map((s) => s.key), ...(like && "was" in like ? ["was"] : [])].map((key) => {
      const slot = form.row.find((s) => s.key === key);
      return [key, slot?.kind === "values" || slot?.kind === "choices" ? [] : (slot?.options[0]?.value ?? "")];
    }),
  );
}

/** The slots of a form or of one of its rows; one that an option must want is there once that option is chosen. */
function SlotFields({ slots, row, onChange }: { slots: Slot[]; row: Row; onChange: (row: Row) => void }) {
  const optional = new Set(slots.flatMap((s) => s.options.flatMap((o) => o.wants)));
  const chosen = slots.flatMap((s) => (s.kind === "choice" ? s.options.filter((o) => o.value === row[s.key]) : []));
  const wanted = new Set(chosen.flatMap((o) => o.wants));
  const shown = slots.filter((s) => !optional.has(s.key) || wanted.has(s.key));
  return (
    <div className="grid grid-cols-2 gap-x-2 gap-y-1.5">
      {shown.map((slot) => (
        <div key={slot.key} className={slot.kind === "choice" || slot.kind === "number" ? "" : "col-span-2"}>
          <SlotField
            slot={slot}
            value={row[slot.key] ?? ""}
            chosen={chosen}
            onChange={(value) => onChange({ ...row, [slot.key]: value })}
          />
        </div>
      ))}
    </div>
  );
}

function SlotField({
  slot,
  value,
  chosen,
  onChange,
}: {
  slot: Slot;
  value: Value;
  chosen: Option[];
  onChange: (value: Value) => void;
}) {
  const one = typeof value === "string" ? value : "";
  const several = typeof value === "string" ? (value ? [value] : []) : value;
  switch (slot.kind) {
    case "choice":
      return (
        <Choose
          label={slot.label}
          value={one}
          options={slot.options.map((o) => [o.value, o.label] as const)}
          onChange={onChange}
          className="text-xs"
        />
      );
    case "choices":
      return <Chosen slot={slot} chosen={several} onChange={onChange} />;
    case "number":
    case "text":
      return (
        <TextField
          label={slot.label}
          inputMode={slot.kind === "number" ? "decimal" : undefined}
          value={one}
          onChange={(e) => onChange(e.target.value)}
          className="text-xs"
        />
      );
    case "values":
      return <Values label={slot.label} values={several} chosen={chosen} onChange={onChange} />;
  }
}

/** Columns in their order: the chosen ones, and the rest to choose from. */
function Chosen({ slot, chosen, onChange }: { slot: Slot; chosen: string[]; onChange: (value: string[]) => void }) {
  const label = (value: string) => slot.options.find((o) => o.value === value)?.label ?? value;
  return (
    <fieldset className="text-xs text-soft">
      <legend>{slot.label}</legend>
      <ul className="flex flex-wrap gap-1 py-1">
        {chosen.map((value) => (
          <li key={value} className="rounded border border-rule bg-band px-1.5 py-0.5 text-[13px] text-ink">
            {label(value)}{" "}
            <button
              type="button"
              aria-label={`without ${label(value)}`}
              className="text-soft hover:text-ink"
              onClick={() => onChange(chosen.filter((v) => v !== value))}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <Choose
        label="one more"
        value=""
        options={[
          ["", "…"],
          ...slot.options.flatMap((o) => (chosen.includes(o.value) ? [] : [[o.value, o.label] as const])),
        ]}
        onChange={(value) => value && onChange([...chosen, value])}
      />
    </fieldset>
  );
}

const MANY = 9;
/** Letters of 2026-03-31. */
const ISO_DAY = 10;
const YES_NO = [
  ["", "…"],
  ["yes", "yes"],
  ["no", "no"],
] as const;

/** The values that a column is held against: none, one, two, or as many as wanted, with those that it is known to have. */
function Values({
  label,
  values,
  chosen,
  onChange,
}: {
  label: string;
  values: string[];
  chosen: Option[];
  onChange: (values: string[]) => void;
}) {
  const list = useId();
  const takes = Math.max(0, ...chosen.map((o) => o.takes));
  const type = chosen.find((o) => o.type)?.type ?? "text";
  const known = chosen.flatMap((o) => o.values);
  const places = takes === MANY ? Math.max(1, values.filter(Boolean).length + 1) : takes;
  const put = (n: number, value: string) => {
    const next = Array.from({ length: Math.max(n + 1, values.length) }, (_, i) =>
      i === n ? value : (values[i] ?? ""),
    );
    onChange(takes === MANY ? next.filter((v, i) => v || i === n) : next.slice(0, takes));
  };
  return (
    <div className="space-y-1">
      {Array.from({ length: places }, (_, n) => {
        const told = takes === 2 ? (n === 0 ? "From" : "To") : takes === MANY && n > 0 ? "or" : label;
        const value = values[n] ?? "";
        return type === "boolean" ? (
          <Choose key={n} label={told} value={value} options={YES_NO} onChange={(v) => put(n, v)} className="text-xs" />
        ) : (
          <TextField
            key={n}
            label={told}
            type={type === "date" && value.length <= ISO_DAY ? "date" : "text"}
            list={known.length > 0 ? list : undefined}
            value={value}
            onChange={(e) => put(n, e.target.value)}
            className="text-xs"
          />
        );
      })}
      {known.length > 0 && (
        <datalist id={list}>
          {known.map((value) => (
            <option key={value} value={value} />
          ))}
        </datalist>
      )}
    </div>
  );
}
