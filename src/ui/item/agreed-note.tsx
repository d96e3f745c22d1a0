"use client";
import { useState } from "react";
import { listWords } from "@/core/formats/list-words";
import { itemContract } from "@/core/item/contract";
import type { ItemView } from "@/core/item/item-view";
import { Button, TextButton } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";
import { Words } from "@/ui/kit/words";
import type { ItemHandle } from "./use-item";

/** What of an item is different from what was agreed when work on it began, and who changed it. */
export function AgreedNote({ handle }: { handle: ItemHandle }) {
  const { view, reload } = handle;
  const [open, setOpen] = useState(false);
  const { agreed, item, project } = view;
  if (agreed === null) return null;
  const { since, description, criteria, estimate, by, unseenBy, seq } = agreed;
  const see = async () => {
    await ask(itemContract.seeAgreed, { params: { key: view.key }, body: { seq } });
    await reload();
  };
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
      <Seen unseenBy={unseenBy} me={view.me} onSee={() => void see().catch(tellProblem)} />
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

/** Who has still to see the change; whoever looks says that they did. */
function Seen({
  unseenBy,
  me,
  onSee,
}: {
  unseenBy: NonNullable<ItemView["agreed"]>["unseenBy"];
  me: string;
  onSee: () => void;
}) {
  const others = unseenBy.filter(({ id }) => id !== me).map(({ name }) => name);
  return (
    <>
      {others.length > 0 && (
        <p className="mt-0.5 text-ink-soft">Not seen yet by {listWords(others, "and")}.</p>
      )}
      {others.length < unseenBy.length && (
        <Button small className="mt-1.5" onClick={onSee}>
          I have seen it
        </Button>
      )}
    </>
  );
}
