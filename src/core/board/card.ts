import type { ItemSnapshot } from "@/core/item/fields";
import { pick } from "@/core/item/pick";

/** What a board needs of an item. */
export const CARD_FIELDS = [
  "id",
  "typeId",
  "title",
  "priority",
  "severity",
  "classOfService",
  "origin",
  "estimate",
  "firstEstimate",
  "spentMinutes",
  "remainingHours",
  "assigneeId",
  "reviewerId",
  "teamId",
  "plannedFrom",
  "plannedTo",
  "dueOn",
  "stateId",
  "stateKind",
  "enteredStateAt",
  "rank",
  "clock",
  "deliveredAt",
  "finishedAt",
  "returns",
  "openBlockers",
  "readySince",
  "outcome",
  "parentId",
  "sprintId",
  "releaseId",
  "labels",
  "parts",
  "own",
  "version",
] as const satisfies readonly (keyof ItemSnapshot)[];

export type Card = Pick<ItemSnapshot, (typeof CARD_FIELDS)[number]> & {
  key: string;
  hasHowToTest: boolean;
  withdrawn: boolean;
};

/** What of an item its card is made of. */
export type CardSource = Pick<ItemSnapshot, (typeof CARD_FIELDS)[number]> &
  Pick<ItemSnapshot, "number" | "howToTest" | "withdrawnAt">;

/** The card of an item. Of two cards of one item, the one with the higher version is the newer. */
export const cardOf = (item: CardSource, projectKey: string): Card =>
  Object.assign(pick(item, CARD_FIELDS), {
    key: `${projectKey}-${item.number}`,
    hasHowToTest: item.howToTest !== null,
    withdrawn: item.withdrawnAt !== null,
  });
