"use client";
import { useCallback } from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { laneDrop, type LaneDrop } from "@/core/board/lane-drop";
import { laneIdOf, type Lane, type LaneCut } from "@/core/board/lane";
import type { SentCommand } from "@/ui/item/send-command";
import type { LookHandle } from "@/ui/view/use-look";
import type { SendCard } from "./use-card-command";
import type { ColumnMoves } from "./use-columns";

/** The command that puts a card into a lane. */
const commandFor = (
  card: Card,
  lane: Lane<unknown>,
  drop: Exclude<LaneDrop, { kind: "no" }>,
): SentCommand =>
  drop.kind === "edit"
    ? { kind: "edit", seenVersion: card.version, changes: drop.fields, own: drop.own }
    : {
        kind: "put under",
        parentKey: drop.parentId === null ? null : lane.name.split(" ")[0],
      };

/**
 * Putting cards into lanes: what that changes of them, and then the column that they were put into.
 */
export function useLaneDrops({
  handle,
  cut,
  goes,
  send,
  onRefused,
}: {
  handle: LookHandle;
  cut: LaneCut;
  goes: Pick<ColumnMoves, "enter">;
  send: SendCard;
  /** A lane takes no card, or not this one. */
  onRefused: (card: Card, sentence: string) => void;
}) {
  const { asker, rights, zone } = handle.views;

  /** What putting a card into a lane does; null where it travels there already. */
  const dropInto = useCallback(
    (card: Card, lane: Lane<unknown>): LaneDrop | null => {
      if (laneIdOf(cut)(card) === lane.id) return null;
      if (!rights.edit) return { kind: "no", sentence: "You may not change items here." };
      const asking = { ...asker, now: Date.now(), zone };
      return laneDrop(lane, card, { asker: asking, cut });
    },
    [cut, asker, rights.edit, zone],
  );

  /** @returns the card as it is then; null where it was refused */
  const change = useCallback(
    async (card: Card, lane: Lane<unknown>, drop: LaneDrop): Promise<Card | null> => {
      if (drop.kind === "no") {
        onRefused(card, drop.sentence);
        return null;
      }
      const shown =
        drop.kind === "edit"
          ? { ...drop.fields, own: { ...card.own, ...drop.own } }
          : { parentId: drop.parentId };
      const command = commandFor(card, lane, drop);
      return send({ card, shown, command, done: `${card.key}: ${lane.name}.` });
    },
    [send, onRefused],
  );

  /** Takes a card into a lane and a column of it. */
  const enter = useCallback(
    async (card: Card, lane: Lane<unknown> | undefined, column: Column, below?: Card | null) => {
      const drop = lane && dropInto(card, lane);
      const there = lane && drop ? await change(card, lane, drop) : card;
      if (there) goes.enter(there, column, below ?? null);
    },
    [dropInto, change, goes],
  );
  return { dropInto, enter };
}

export type LaneDrops = ReturnType<typeof useLaneDrops>;
