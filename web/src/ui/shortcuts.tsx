import { SHORTCUTS } from "./keys";
import { Key, Link, Window } from "./primitives";
import { beginTour } from "./tour";

export const Shortcuts = ({ onClose }: { onClose: () => void }) => (
  <Window open onClose={onClose} title="Keys">
    <dl className="grid grid-cols-[11rem_minmax(0,1fr)] gap-y-2">
      {SHORTCUTS.map(([keys, words]) => (
        <div key={keys} className="contents">
          <dt>
            <Key>{keys}</Key>
          </dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
    <p className="mt-4">
      <Link
        onClick={() => {
          onClose();
          void beginTour();
        }}
      >
        Show me around
      </Link>
    </p>
  </Window>
);
