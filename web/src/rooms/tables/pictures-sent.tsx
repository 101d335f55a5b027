/** The pictures that were sent to the workspace, to be looked at and deleted. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import { Deletion } from "../../ui/deletion";
import { plural } from "../../ui/format";
import { Link, Window } from "../../ui/primitives";

export function PicturesSent() {
  const [open, setOpen] = useState(false);
  const names = useQuery({ queryKey: ["pictures"], queryFn: api.pictures }).data ?? [];
  if (names.length === 0) return null;
  return (
    <p className="mt-3 text-xs">
      <Link onClick={() => setOpen(true)}>{plural(names.length, "picture")}</Link>
      <Window
        open={open}
        onClose={() => setOpen(false)}
        title="Pictures"
        about="Where a cell of an answer is the name of one of these, with or without a folder before it, the picture is shown."
      >
        <ul className="mt-3 divide-y divide-rule border-y border-rule">
          {names.map((name) => (
            <li key={name} className="flex items-center gap-3 py-1.5">
              <img src={api.pictureNamed(name)} alt="" loading="lazy" className="h-10 w-16 object-contain" />
              <span className="min-w-0 break-words">{name}</span>
              <span className="ml-auto shrink-0 text-xs">
                <Deletion
                  trigger="delete"
                  title={`Delete ${name}?`}
                  words="Cells that name it show its name again."
                  act={() => api.removePicture(name)}
                  done={() => undefined}
                />
              </span>
            </li>
          ))}
        </ul>
      </Window>
    </p>
  );
}
