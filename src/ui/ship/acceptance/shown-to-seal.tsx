"use client";
import { Copy } from "lucide-react";
import type { ShownTo } from "@/core/ship/acceptance/acceptance-rows";
import { ANSWERED_WORDS } from "@/core/ship/acceptance/answer";
import type { ShowingView } from "@/core/ship/acceptance/acceptance-view";
import { Button } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { Popover } from "@/ui/kit/popover";
import { ago, exact, span } from "@/ui/kit/time";
import { AnsweredMark } from "./answered-mark";
import { SaidList } from "./said-list";
import type { AcceptanceHandle } from "./use-acceptance";

/** Somebody whom an item was shown to; a press tells what they said, and what can be done. */
export function ShownToSeal({
  of,
  itemKey,
  handle,
}: {
  of: ShownTo;
  itemKey: string;
  handle: AcceptanceHandle;
}) {
  const { showing, answered, said } = of;
  const { zone } = handle.view.project;
  const { now } = handle.view;
  const words =
    closedWords(showing) ??
    (answered === "waits"
      ? `no word for ${span(now - showing.askedAt)}`
      : ANSWERED_WORDS[answered]);
  return (
    <li>
      <Popover
        label={`${showing.name} on ${itemKey}`}
        align="end"
        className="w-[340px]"
        trigger={
          <button
            type="button"
            className="shown-to"
            data-answered={answered}
            data-closed={showing.closed ?? undefined}
          >
            <AnsweredMark of={answered} />
            <b>{showing.name}</b> <span>{words}</span>
          </button>
        }
      >
        <p className="font-semibold">{showing.name}</p>
        <p className="mb-2 text-[12.5px] text-ink-soft">
          {showing.inside ? "with an account" : showing.mail || "address handed over by hand"} ·
          asked by {showing.askedBy},{" "}
          <span title={exact(showing.askedAt, zone)}>{ago(showing.askedAt, now)}</span>
          {showing.remindedAt !== null && `, reminded ${ago(showing.remindedAt, now)}`}
        </p>
        {said.length === 0 ? (
          <p className="text-[13px]">Not a word yet.</p>
        ) : (
          <SaidList said={said} zone={zone} now={now} />
        )}
        {showing.rows.length + showing.unseen > 1 && (
          <p className="mt-2 text-[12.5px] text-ink-soft">
            {showing.rows.length + showing.unseen} items are shown together; what is done here is
            done to all of them.
          </p>
        )}
        <Doing showing={showing} handle={handle} waits={answered !== "accepted"} />
      </Popover>
    </li>
  );
}

/** Why it can be looked at no more. */
const closedWords = ({ closed }: ShowingView): string | null =>
  closed === "taken back" ? "taken back" : closed === "over" ? "time is over" : null;

function Doing({
  showing,
  handle,
  waits,
}: {
  showing: ShowingView;
  handle: AcceptanceHandle;
  waits: boolean;
}) {
  if (!showing.mayChange) return null;
  const { page, closed, name } = showing;
  return (
    <div className="mt-3 flex flex-wrap gap-1.5">
      {page && (
        <Button
          small
          onClick={() => void copyText(page, `The address of ${name}’s page is copied.`)}
        >
          <Copy size={13} aria-hidden="true" /> Copy the address
        </Button>
      )}
      {closed === null && waits && (
        <Button small onClick={() => void handle.step(showing, "remind")}>
          Remind
        </Button>
      )}
      <Button small onClick={() => void handle.step(showing, "ask again")}>
        Ask again
      </Button>
      {closed !== "taken back" && (
        <Button small look="danger" onClick={() => void handle.step(showing, "take back")}>
          Take back
        </Button>
      )}
    </div>
  );
}
