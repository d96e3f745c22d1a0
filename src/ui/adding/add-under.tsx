"use client";
import { useState } from "react";
import type { Card } from "@/core/board/card";
import { BUG_SIGN } from "@/core/item/item-type";
import { sendCommand } from "@/ui/item/send-command";
import { tellProblem } from "@/ui/kit/notice";
import { Choice } from "@/ui/kit/check";
import { useKnownTypes, type KnownType } from "@/ui/kit/type-glyph";
import type { LookHandle } from "@/ui/view/use-look";
import { AddLine } from "./add-line";
import { AT_THE_BEGINNING, type AddPlace } from "./use-adding";

type Adds = "child" | "bug";

/** What can be added to an item: children where its level has any, bugs where the project has them. */
export const addsTo = (card: Card, types: readonly KnownType[]): Adds[] => {
  const level = types.find(({ id }) => id === card.typeId)?.level ?? 0;
  return [
    ...(level > 0 ? (["child"] as const) : []),
    ...(types.some(({ glyph }) => glyph === BUG_SIGN) ? (["bug"] as const) : []),
  ];
};

/** Adds children to an item, or bugs that were found in it, one after another. */
export function AddUnder({
  handle,
  card,
  onLeave,
}: {
  handle: LookHandle;
  card: Card;
  onLeave: () => void;
}) {
  const types = useKnownTypes();
  const offered = addsTo(card, types);
  const [adds, setAdds] = useState<Adds>(offered[0] ?? "child");
  const bugType = types.find(({ glyph }) => glyph === BUG_SIGN)?.id ?? null;
  const child: AddPlace = {
    ...AT_THE_BEGINNING,
    parentId: card.id,
    underTypeId: card.typeId,
    at: "foot",
    words: `the children of ${card.key}`,
  };
  const bug: AddPlace = {
    ...AT_THE_BEGINNING,
    meaning: { kind: "compare", fact: "typeId", op: "is", value: bugType },
    at: "foot",
    words: `the bugs found in ${card.key}`,
  };
  /** Where a bug was found stays to be seen at both. */
  const linked = async (made: Card) => {
    if (adds === "bug")
      await sendCommand(made.id, {
        kind: "link",
        linkKind: "came from",
        otherKey: card.key,
      }).catch(tellProblem);
  };
  return (
    <div onKeyDown={(event) => event.stopPropagation()}>
      <div role="radiogroup" aria-label="What is added" className="mb-1.5 flex gap-3 text-[13px]">
        {offered.map((each) => (
          <Choice
            key={each}
            name="what is added"
            checked={adds === each}
            onChange={() => setAdds(each)}
          >
            {each === "child" ? "a child of it" : "a bug found in it"}
          </Choice>
        ))}
      </div>
      <AddLine
        key={adds}
        handle={handle}
        place={adds === "child" ? child : bug}
        onMade={linked}
        onLeave={onLeave}
      />
    </div>
  );
}
