"use client";
import { useState } from "react";
import { listWords } from "@/core/formats/list-words";
import type { ItemView } from "@/core/item/item-view";
import { TextButton } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { exact } from "@/ui/kit/time";
import { Words } from "@/ui/kit/words";

/** What of an item is different from what was agreed when work on it began, and who changed it. */
export function AgreedNote({ view }: { view: ItemView }) {
  const [open, setOpen] = useState(false);
  const { agreed, item, project } = view;
  if (agreed === null) return null;
  const { since, description, criteria, estimate, by } = agreed;
  const who = by.map(({ name, changes }) => (changes === 1 ? name : `${name} (${changes} times)`));
  const size = (points: number | null) => (points === null ? "none" : String(points));
  return (
    <Note kind="look">
      <b>Changed since work began</b>
      <span className="text-ink-soft">
        {" "}
        on {exact(since, project.zone)}
        {who.length > 0 && `, by ${listWords(who, "and")}`}
      </span>
      <ul className="mt-0.5">
        {description !== null && (
          <li>
            the description ·{" "}
            <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
              {open ? "hide what it said" : "what it said"}
            </TextButton>
          </li>
        )}
        {criteria !== null && <li>the acceptance criteria: {criteria}</li>}
        {estimate !== null && (
          <li>
            the estimate: <s>{size(estimate.was)}</s> {size(item.estimate)}
          </li>
        )}
      </ul>
      {open && description !== null && (
        <div className="mt-1 border-t border-line pt-1">
          {description === "" ? (
            <p className="text-ink-soft">nothing</p>
          ) : (
            <Words text={description} />
          )}
        </div>
      )}
    </Note>
  );
}
