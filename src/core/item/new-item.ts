import type { CreatedData } from "./event";

export type NewItem = Omit<CreatedData, "projectId" | "number" | "stateId" | "stateKind" | "rank">;

/** What an item is unless somebody says otherwise. */
export const NEW_ITEM: Omit<NewItem, "title" | "typeId"> = {
  description: "",
  severity: null,
  priority: "normal",
  classOfService: "standard",
  origin: "planned",
  estimate: null,
  teamId: null,
  assigneeId: null,
  reviewerId: null,
  place: null,
  howToTest: null,
  dueOn: null,
  sprintId: null,
  releaseId: null,
  labels: [],
  restricted: false,
  remainingHours: null,
  parentId: null,
  own: {},
};
