"use client";
import { Copy } from "lucide-react";
import { Button } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";

/** Whom it was shown to, with the address of each page, to be handed over by hand too. */
export const PagesMade = ({
  pages,
  onLeave,
}: {
  pages: readonly { name: string; page: string | null }[];
  onLeave: () => void;
}) => (
  <div className="flex flex-col gap-3">
    <p className="font-semibold">It is shown. What they say stands here and on the item.</p>
    <ul className="flex flex-col gap-2">
      {pages.map(({ name, page }) => (
        <li key={`${name} ${page}`} className="flex items-center gap-2">
          <span className="min-w-0 flex-1">
            <b>{name}</b>
            <span className="block truncate text-[12.5px] text-ink-soft">
              {page ?? "finds it under Acceptance, and was told"}
            </span>
          </span>
          {page && (
            <Button
              small
              aria-label={`Copy the address of ${name}’s page`}
              onClick={() => void copyText(page, `The address of ${name}’s page is copied.`)}
            >
              <Copy size={13} aria-hidden="true" /> Copy
            </Button>
          )}
        </li>
      ))}
    </ul>
    <p className="text-[12.5px] text-ink-soft">
      Whoever has the address of a page can answer in their name, for 30 days.
    </p>
    <Button look="accent" small className="self-start" onClick={onLeave}>
      Done
    </Button>
  </div>
);
