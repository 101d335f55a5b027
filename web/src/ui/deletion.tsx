import { useMutation, useQueryClient } from "@tanstack/react-query";
import { AlertDialog } from "radix-ui";
import { Button, ProblemNote } from "./primitives";

/** Something that cannot be taken back, done once a person has said yes. */
export function Deletion({
  trigger,
  title,
  words,
  act,
  done,
  yes = "Delete",
}: {
  trigger: string;
  title: string;
  words: string;
  act: () => Promise<unknown>;
  done: () => void;
  yes?: string;
}) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: act,
    onSuccess: async () => {
      // First away from what is gone, so that it is not asked for any more.
      done();
      await new Promise((resolve) => setTimeout(resolve));
      await client.invalidateQueries();
    },
  });
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="text-soft underline underline-offset-2">{trigger}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 veil" />
        <AlertDialog.Content className="fixed left-1/2 top-1/3 z-30 w-96 -translate-x-1/2 rounded border border-rule bg-paper p-5">
          <AlertDialog.Title className="font-serif text-lg">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-soft">{words}</AlertDialog.Description>
          {remove.isError && <ProblemNote error={remove.error} />}
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep it</Button>
            </AlertDialog.Cancel>
            <Button className="text-stop" disabled={remove.isPending} onClick={() => remove.mutate()}>
              {yes}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
