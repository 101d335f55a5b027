import { SHORTCUTS } from "./keys";
import { Key, Window } from "./primitives";

export const Shortcuts = ({ onClose }: { onClose: () => void }) => (
  <Window open onClose={onClose} title="Keys">
    <dl className="grid grid-cols-[9rem_minmax(0,1fr)] gap-y-2">
      {SHORTCUTS.map(([keys, words]) => (
        <div key={keys} className="contents">
          <dt>
            <Key>{keys}</Key>
          </dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  </Window>
);
