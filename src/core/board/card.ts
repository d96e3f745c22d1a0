import type { ItemSnapshot } from "@/core/item/fields";

/** What a board needs of an item. */
export type Card = Pick<
  ItemSnapshot,
  | "id"
  | "typeId"
  | "title"
  | "priority"
  | "severity"
  | "classOfService"
  | "origin"
  | "estimate"
  | "assigneeId"
  | "reviewerId"
  | "teamId"
  | "dueOn"
  | "stateId"
  | "stateKind"
  | "enteredStateAt"
  | "rank"
  | "clock"
  | "deliveredAt"
  | "finishedAt"
  | "returns"
  | "openBlockers"
  | "outcome"
  | "parentId"
  | "sprintId"
  | "releaseId"
  | "labels"
  | "own"
  | "version"
> & { key: string; hasHowToTest: boolean; withdrawn: boolean };

/** The card of an item. Of two cards of one item, the one with the higher version is the newer. */
export function cardOf(item: ItemSnapshot, projectKey: string): Card {
  const {
    id,
    typeId,
    title,
    priority,
    severity,
    classOfService,
    origin,
    estimate,
    assigneeId,
    reviewerId,
    teamId,
    dueOn,
  } = item;
  const {
    stateId,
    stateKind,
    enteredStateAt,
    rank,
    clock,
    deliveredAt,
    finishedAt,
    returns,
    openBlockers,
    outcome,
    parentId,
    version,
    sprintId,
    releaseId,
    labels,
    own,
  } = item;
  return {
    id,
    typeId,
    title,
    priority,
    severity,
    classOfService,
    origin,
    estimate,
    assigneeId,
    reviewerId,
    teamId,
    dueOn,
    stateId,
    stateKind,
    enteredStateAt,
    rank,
    clock,
    deliveredAt,
    finishedAt,
    returns,
    openBlockers,
    outcome,
    parentId,
    version,
    sprintId,
    releaseId,
    labels,
    own,
    key: `${projectKey}-${item.number}`,
    hasHowToTest: item.howToTest !== null,
    withdrawn: item.withdrawnAt !== null,
  };
}
