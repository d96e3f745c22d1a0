"use client";
import { Note } from "@/ui/kit/note";
import { Button, TextButton } from "@/ui/kit/button";
import { Octagon } from "lucide-react";
import { useState } from "react";
import { blockerWords } from "@/core/item/blocker";
import type { OpenBlocker } from "@/core/item/fields";
import { isInProgress } from "@/core/workflow/state";
import { tellProblem } from "@/ui/kit/notice";
import { span } from "@/ui/kit/time";
import { BlockerForm } from "./blocker-form";
import type { ItemHandle } from "./use-item";

/** What keeps the item from going on: shown, lifted, added with its cause. */
export function ItemBlockers({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const [adding, setAdding] = useState(false);
  const { openBlockers, stateKind, withdrawnAt } = view.item;
  const may = view.rights.block && withdrawnAt === null;
  const mayAdd = may && isInProgress(stateKind);
  if (openBlockers.length === 0 && !mayAdd) return null;
  return (
    <section className="flex flex-col gap-2">
      {openBlockers.map((blocker) => (
        <Blocker key={blocker.id} blocker={blocker} handle={handle} mayLift={may} />
      ))}
      {mayAdd &&
        (adding ? (
          <BlockerForm handle={handle} onDone={() => setAdding(false)} />
        ) : (
          <TextButton className="self-start text-[13px]" onClick={() => setAdding(true)}>
            Add a blocker
          </TextButton>
        ))}
    </section>
  );
}

function Blocker({
  blocker,
  handle: { view, send },
  mayLift,
}: {
  blocker: OpenBlocker;
  handle: ItemHandle;
  mayLift: boolean;
}) {
  const other = view.links.find((link) => link.otherId === blocker.dependencyId);
  return (
    <Note kind="problem" className="flex items-start gap-2">
      <Octagon
        size={15}
        className="mt-0.5 shrink-0 text-alarm"
        fill="currentColor"
        aria-hidden="true"
      />
      <p className="flex-1">
        <b>Blocked for {span(view.now - blocker.since)}:</b>{" "}
        {blockerWords(blocker, () => other?.key ?? null)}
        {blocker.waitingFor ? `, waiting for ${blocker.waitingFor}` : ""}
        {other && <span className="block text-[13px] text-ink-soft">{aboutOther(other)}</span>}
      </p>
      {mayLift && (
        <Button
          small
          onClick={() =>
            void send({ kind: "lift", blockId: blocker.id }, "The blocker is lifted.").catch(
              tellProblem,
            )
          }
        >
          Lift blocker
        </Button>
      )}
    </Note>
  );
}

/** What is to be known of the item that is waited for. */
const aboutOther = ({
  key,
  title,
  stateName,
  wait,
}: ItemHandle["view"]["links"][number]): string =>
  wait === "ended otherwise"
    ? `${key} ended as ${stateName} and was not delivered. Where this waits no longer, take the link away.`
    : `${title}: ${stateName}. Its delivery lifts this.`;
