"use client";
import { Sheet } from "./sheet";

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
    <Sheet open={open} onClose={onClose} title={title}>
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
    </Sheet>
  );
}
