/** SQL that a person edits and runs: one SELECT over the workspace's tables. Its result is theirs, and marked so. */
import { sql } from "@codemirror/lang-sql";
import { HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { EditorState } from "@codemirror/state";
import { keymap } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useMutation } from "@tanstack/react-query";
import { basicSetup, EditorView } from "codemirror";
import { useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import { plural } from "../../ui/format";
import { Busy, Button, Key, ProblemNote, Window } from "../../ui/primitives";
import { ResultTable } from "./result-table";

export function OwnSql({ open, first, onClose }: { open: boolean; first: string; onClose: () => void }) {
  return (
    <Window
      open={open}
      onClose={onClose}
      title="Your own SQL"
      about="One SELECT over the tables of this workspace. The result is yours: nothing of it is checked."
      wide
    >
      <Bench first={first} />
    </Window>
  );
}

/** What was made of each answer's SQL, so that closing the window loses nothing. */
const edited = new Map<string, string>();

function Bench({ first }: { first: string }) {
  const [begun] = useState(() => edited.get(first) ?? first);
  const [text, setText] = useState(begun);
  const change = (sqlText: string) => {
    edited.set(first, sqlText);
    setText(sqlText);
  };
  const [run, setRun] = useState("");
  const work = useMutation({ mutationFn: (asked: { sql: string; run: string }) => api.runSql(asked.sql, asked.run) });
  const start = (sqlText: string) => {
    const number = crypto.randomUUID();
    setRun(number);
    work.mutate({ sql: sqlText, run: number });
  };
  const given = work.data;
  return (
    <>
      <Editor first={begun} onChange={change} onRun={start} />
      <div className="mt-3 flex items-center gap-2">
        <Button disabled={work.isPending || !text.trim()} onClick={() => start(text)}>
          Run<Key>Ctrl+Enter</Key>
        </Button>
        {work.isPending && <Button onClick={() => void api.stop(run)}>Stop</Button>}
        {work.isPending && <Busy>Running…</Busy>}
        {given && !work.isPending && (
          <p className="text-soft">
            {given.whole ? plural(given.total, "row") : `more than ${plural(given.total, "row")}`} in{" "}
            {given.seconds.toFixed(2)} s
          </p>
        )}
      </div>
      {work.isError && (
        <div className="mt-3">
          <ProblemNote error={work.error} />
        </div>
      )}
      {given && !work.isPending && (
        <div className="mt-4 border-l-2 border-caution pl-4" data-testid="their-result">
          <p className="text-caution">Result of your own SQL: not checked, not worked twice.</p>
          {given.rows.length === 0 ? (
            <p className="mt-2 text-soft">No rows.</p>
          ) : (
            <ResultTable fields={given.fields} rows={given.rows} cells={given.cells} total={given.total} />
          )}
        </div>
      )}
    </>
  );
}

const look = [
  EditorView.theme({
    "&": {
      fontSize: "12.5px",
      border: "1px solid var(--color-rule)",
      borderRadius: "4px",
      color: "var(--color-ink)",
      backgroundColor: "var(--color-paper)",
    },
    ".cm-scroller": { fontFamily: "JetBrains Mono, monospace", maxHeight: "34vh", overflow: "auto" },
    ".cm-gutters": { backgroundColor: "var(--color-desk)", color: "var(--color-soft)", border: "none" },
    ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "var(--color-band)" },
    ".cm-content": { caretColor: "var(--color-ink)" },
    ".cm-cursor": { borderLeftColor: "var(--color-ink)" },
  }),
  syntaxHighlighting(
    HighlightStyle.define([
      { tag: tags.keyword, color: "var(--color-pen)", fontWeight: "600" },
      { tag: tags.string, color: "var(--color-holds)" },
      { tag: [tags.number, tags.bool, tags.null], color: "var(--color-caution)" },
      { tag: tags.comment, color: "var(--color-soft)" },
    ]),
  ),
];

function Editor({
  first,
  onChange,
  onRun,
}: {
  first: string;
  onChange: (text: string) => void;
  onRun: (text: string) => void;
}) {
  const place = useRef<HTMLDivElement>(null);
  const latest = useRef({ onChange, onRun });
  useEffect(() => {
    latest.current = { onChange, onRun };
  });
  useEffect(() => {
    if (!place.current) return;
    const runs = keymap.of([
      { key: "Mod-Enter", run: (view) => (latest.current.onRun(view.state.doc.toString()), true) },
    ]);
    const told = EditorView.updateListener.of(
      (update) => update.docChanged && latest.current.onChange(update.state.doc.toString()),
    );
    const label = EditorView.contentAttributes.of({ "aria-label": "SQL" });
    // The run key comes first, since the basic setup has a use of its own for it.
    const view = new EditorView({
      state: EditorState.create({ doc: first, extensions: [runs, basicSetup, sql(), look, told, label] }),
      parent: place.current,
    });
    view.focus();
    return () => view.destroy();
  }, [first]);
  return <div ref={place} data-testid="sql-editor" />;
}
