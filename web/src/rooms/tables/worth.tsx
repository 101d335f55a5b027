/** What stands out in a table, looked for once somebody looks at it. */
import { useQuery } from "@tanstack/react-query";
import { api, type TableEntry } from "../../api/client";
import { go } from "../../ui/location";
import { Busy, Heading } from "../../ui/primitives";
import { Remarks } from "../ask/remarks";

export function WorthALook({ entry }: { entry: TableEntry }) {
  const { name } = entry.table;
  const found = useQuery({ queryKey: ["worth", name, entry.version], queryFn: () => api.worth(name) });
  if (found.isError || found.data?.length === 0) return null;
  return (
    <div className="mt-5">
      <Heading>Worth a look</Heading>
      {found.data ? (
        <Remarks remarks={found.data} onAsk={(question) => go.draft(question)} />
      ) : (
        <Busy>Looking for what stands out…</Busy>
      )}
    </div>
  );
}
