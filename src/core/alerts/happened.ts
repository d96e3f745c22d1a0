import type { ItemEvent } from "@/core/item/event";
import type { StateMeaning } from "@/core/workflow/state-meaning";
import { NOBODY_NAMED } from "@/core/talk/comment";

/**
 * What can happen to an item, as far as rules tell it apart, with the words that a rule is made of:
 * "when …".
 */
export const HAPPENED_WORDS = {
  made: "it is made",
  given: "it is given to somebody",
  "given away": "it is taken from somebody",
  "review given": "somebody is to review it",
  "for review": "it comes to its review",
  "for test": "it comes to be tested",
  moved: "it moves on",
  "sent back": "it is sent back",
  finished: "it is finished",
  reopened: "it is reopened",
  withdrawn: "it is withdrawn",
  "brought back": "it is brought back",
  "changed project": "it goes to another project",
  blocked: "it is blocked",
  freed: "a blocker is lifted",
  ready: "it is ready for its next step",
  commented: "somebody comments on it",
  named: "a comment names somebody",
  asked: "a comment asks somebody",
  answered: "whoever reported it answers",
  "comment changed": "a comment is changed",
  expedited: "it becomes expedite",
  "due changed": "its due date changes",
  changed: "something else about it changes",
  "file added": "a file is added to it",
  linked: "it is linked to another item, or not any more",
  agreed: "it is approved, or the approval taken back",
  heard: "the code host or the pipeline tells of it",
  accepted: "somebody it was shown to accepts it",
  "something missing": "somebody it was shown to misses something",
  held: "a move that should have happened by itself did not",
  "at risk": "a promise about it is at risk",
  told: "the process tells people of it",
  "pointed out": "somebody points it out",
  shown: "it is shown to somebody to be accepted",
} as const;

export type HappenedKind = keyof typeof HAPPENED_WORDS;
export const HAPPENED_KINDS = Object.keys(HAPPENED_WORDS) as HappenedKind[];

/** One thing that happened to an item, with the people and teams that it is addressed to. */
export interface Happened {
  kind: HappenedKind;
  /** The step of the item's history that tells of it. */
  seq: number;
  people: readonly string[];
  teams: readonly string[];
  /** Of what else changes: the field. */
  field?: string;
}

/**
 * What steps of an item's history amount to, in their order. Places in the order, limits that were
 * passed, undone steps, texts that are emptied or taken back are nothing that anybody is told.
 * @param stateOf what is known of a state by its id
 * @param isIn what is known of the state that the item is in after them
 */
export function happenedIn(
  events: readonly ItemEvent[],
  stateOf: (id: string) => StateMeaning,
  isIn: StateMeaning = ELSEWHERE,
): Happened[] {
  const happened = events.flatMap((event): Happened[] =>
    kindsOf(event, stateOf).map((one) => ({
      seq: event.seq,
      people: [],
      teams: [],
      ...(typeof one === "string" ? { kind: one } : one),
    })),
  );
  // Whoever is to review what stands in its review already has it before them now.
  const given = happened.find(({ kind }) => kind === "review given");
  if (given && isIn.ofReview && !happened.some(({ kind }) => kind === "for review"))
    happened.push({ ...given, kind: "for review", people: [] });
  return happened;
}

/** Whether what steps amount to can depend on the state that the item is in after them. */
export const asksWhereItIs = (events: readonly ItemEvent[]): boolean =>
  events.some(({ kind }) => kind === "changed" || kind === "created");

const ELSEWHERE: StateMeaning = { ofReview: false, ofTest: false };

type Kind = HappenedKind | (Pick<Happened, "kind"> & Partial<Happened>);

const to = (kind: HappenedKind, person: unknown): Kind[] =>
  typeof person === "string" ? [{ kind, people: [person] }] : [];

function kindsOf(event: ItemEvent, stateOf: (id: string) => StateMeaning): Kind[] {
  switch (event.kind) {
    case "created":
      return [
        "made",
        ...to("given", event.new.assigneeId),
        ...to("review given", event.new.reviewerId),
        ...(event.new.classOfService === "expedite" ? (["expedited"] as const) : []),
      ];
    case "changed":
      return changeKinds(event);
    case "moved":
      return [moveKind(event), ...arrivals(stateOf(event.old.stateId), stateOf(event.new.stateId))];
    case "commented":
      return commentKinds(event);
    case "comment edited":
      return [
        "comment changed",
        ...(event.new.named.people.length + event.new.named.teams.length > 0
          ? [{ kind: "named" as const, ...event.new.named }]
          : []),
      ];
    case "blocked":
      return ["blocked"];
    case "lifted":
      return ["freed"];
    case "marked ready":
      return ["ready"];
    case "linked":
    case "unlinked":
    case "put under":
      return ["linked"];
    case "changed project":
      return ["changed project"];
    case "approved":
    case "approval withdrawn":
      return ["agreed"];
    case "withdrawn":
      return ["withdrawn"];
    case "brought back":
      return ["brought back"];
    case "reported": {
      const { kind } = event.new;
      return [kind === "accepted" || kind === "something missing" ? kind : "heard"];
    }
    case "held":
      return ["held"];
    case "file added":
      return ["file added"];
    case "file removed":
      return ["changed"];
    case "own changed":
      return [{ kind: "changed", field: `own.${event.field}` }];
    case "ready taken back":
    case "talk closed":
    case "time recorded":
      return ["changed"];
    case "ticked":
    case "unticked":
    case "ranked":
    case "overrode":
    case "undone":
    case "emptied":
    case "comment taken back":
      return [];
  }
}

function changeKinds(event: Extract<ItemEvent, { kind: "changed" }>): Kind[] {
  const changed = { kind: "changed", field: event.field } as const;
  switch (event.field) {
    case "assigneeId":
      return [...to("given away", event.old), ...to("given", event.new)];
    case "reviewerId":
      return event.new === null ? [changed] : to("review given", event.new);
    case "dueOn":
      return ["due changed"];
    case "classOfService":
      return [event.new === "expedite" ? "expedited" : changed];
    default:
      return [changed];
  }
}

function moveKind({ old, new: is }: Extract<ItemEvent, { kind: "moved" }>): HappenedKind {
  if (is.kind === "finished" && old.kind !== "finished") return "finished";
  if (old.kind === "finished" && is.kind !== "finished") return "reopened";
  return is.isReturn ? "sent back" : "moved";
}

/** Within its review, or within its test, an item comes to neither once more. */
function arrivals(from: StateMeaning, is: StateMeaning): Kind[] {
  return [
    ...(is.ofReview && !from.ofReview ? (["for review"] as const) : []),
    ...(is.ofTest && !from.ofTest ? (["for test"] as const) : []),
  ];
}

function commentKinds({ cause, new: said }: Extract<ItemEvent, { kind: "commented" }>): Kind[] {
  if (cause === "requester") return ["answered"];
  const { people, teams } = said.named ?? NOBODY_NAMED;
  return [
    "commented",
    ...(people.length + teams.length > 0 ? [{ kind: "named" as const, people, teams }] : []),
    ...(said.asks?.length ? [{ kind: "asked" as const, people: said.asks }] : []),
  ];
}
