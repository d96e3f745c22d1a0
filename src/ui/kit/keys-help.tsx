"use client";
import { Dialog } from "radix-ui";

/** The keys of a screen; `?` opens it. */
export function KeysHelp({
  open,
  onClose,
  title,
  keys,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  keys: [keys: string, does: string][];
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="popover fixed left-1/2 top-24 z-50 w-[420px] -translate-x-1/2"
        >
          <Dialog.Title className="mb-2 text-[15px]">{title}</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
            {keys.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="flex gap-1">
                  {key.split(" ").map((k) => (
                    <kbd key={k}>{k}</kbd>
                  ))}
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
