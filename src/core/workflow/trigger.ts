import { z } from "zod";
import { counted } from "@/core/formats/counted";
import { LINK_WAY_WORDS } from "@/core/item/link-way";
import { ENOUGH_WORDS, isEnough } from "@/core/ship/acceptance/enough";
import type { OutsideFact } from "@/core/item/outside";
import { ACCEPTED_BY } from "./accepted-by";
import {
  schemaOfKinds,
  wordsOf,
  type Editors,
  type ParametersOf,
  type RuleOf,
  type Shape,
} from "./parameter";

/** Something that happened to an item and that transitions may wait for. */
export type Occurrence =
  | Exclude<
      OutsideFact,
      { kind: "change updated" | "change abandoned" | "checks started" | "deployed no more" }
    >
  | { kind: "sub-tasks finished" }
  | { kind: "parent finished"; parentKey: string }
  /** Of what it is linked to in one way the last has ended; whether all of it was delivered. */
  | { kind: "linked ended"; way: string; key: string; delivered: boolean }
  | { kind: "requester answered" }
  | { kind: "first assigned" }
  | { kind: "days in state"; days: number }
  | { kind: "date reached"; field: "dueOn" };

type Happened<K extends Occurrence["kind"]> = Extract<Occurrence, { kind: K }>;

/** A kind of trigger, with all that the product knows about it. */
interface TriggerKindOf<K extends Occurrence["kind"], S extends Shape> {
  /** In the list of what can be waited for: "it is deployed". */
  title: string;
  parameters: S;
  /** What it leaves open when it is added. */
  begins: ParametersOf<S>;
  editors: Editors<S>;
  /** When a transition happens by itself: "it is deployed to production". */
  words: (parameters: ParametersOf<S>) => string;
  /** Whether it waited for what happened. */
  waitedFor: (parameters: ParametersOf<S>, happened: Happened<K>) => boolean;
  /** What happened, as the history says it: "It was deployed to production." */
  history: (happened: Happened<K>) => string;
}

/** A kind that leaves nothing open: it waits for every occurrence of its kind. */
const plain = <K extends Occurrence["kind"]>(
  _kind: K,
  title: string,
  history: (happened: Happened<K>) => string,
): TriggerKindOf<K, Record<never, never>> => ({
  title,
  parameters: {},
  begins: {},
  editors: {},
  words: () => title,
  waitedFor: () => true,
  history,
});

/** A kind with the types of its parameters. */
const withParameters = <K extends Occurrence["kind"], const S extends Shape>(
  _kind: K,
  of: TriggerKindOf<K, S>,
) => of;

const MOST_DAYS = 3_650;

/** Every kind of trigger, in the order in which it is offered. */
const TABLE = {
  "work pushed": plain(
    "work pushed",
    "something is pushed for it",
    () => "Something was pushed for it.",
  ),
  "commit says done": plain(
    "commit says done",
    "a commit says it is done",
    ({ commit }) => `Commit ${commit} on main says that it is done.`,
  ),
  "commit reverted": plain(
    "commit reverted",
    "a commit for it is taken back",
    ({ commit }) => `Commit ${commit} was taken back on main.`,
  ),
  "change opened": plain(
    "change opened",
    "a change for it is opened",
    ({ change }) => `Change ${change} was opened.`,
  ),
  // The last of the item's open changes.
  "change merged": plain(
    "change merged",
    "its changes are merged",
    ({ change }) => `Change ${change} was merged.`,
  ),
  "checks passed": plain(
    "checks passed",
    "the checks of its changes pass",
    ({ change }) => `The checks of change ${change} passed.`,
  ),
  "checks failed": plain(
    "checks failed",
    "a check of its changes fails",
    ({ change }) => `A check of change ${change} failed.`,
  ),
  "review approved": plain(
    "review approved",
    "its change is approved in review",
    ({ change }) => `Change ${change} was approved in review.`,
  ),
  "review sent back": plain(
    "review sent back",
    "its change is sent back in review",
    ({ change }) => `Change ${change} was sent back in review.`,
  ),
  "test run passed": plain(
    "test run passed",
    "its test run passes",
    ({ run }) => `Test run ${run} passed.`,
  ),
  "test run failed": plain(
    "test run failed",
    "its test run fails",
    ({ run }) => `Test run ${run} failed.`,
  ),
  accepted: withParameters("accepted", {
    title: "those it was shown to accept it",
    ...ACCEPTED_BY,
    words: ({ by }) =>
      `${ENOUGH_WORDS[by]} ${by === "everybody" || by === "1" ? "accepts" : "accept"} it`,
    waitedFor: ({ by }, happened) => isEnough(by, happened),
    history: ({ asked, given }) => `Of ${asked} whom it was shown to ${given} accepted it.`,
  }),
  "something missing": plain(
    "something missing",
    "somebody it was shown to misses something",
    () => "Somebody it was shown to misses something.",
  ),
  deployed: withParameters("deployed", {
    title: "it is deployed",
    parameters: { environment: wordsOf(60) },
    begins: { environment: "production" },
    editors: { environment: { kind: "text", label: "Environment", most: 60 } },
    words: ({ environment }) => `it is deployed to ${environment}`,
    waitedFor: (trigger, happened) =>
      trigger.environment.toLowerCase() === happened.environment.toLowerCase(),
    history: ({ environment }) => `It was deployed to ${environment}.`,
  }),
  "sub-tasks finished": plain(
    "sub-tasks finished",
    "all its children are finished",
    () => "All its children are finished.",
  ),
  "parent finished": plain(
    "parent finished",
    "the item above it is finished",
    ({ parentKey }) => `${parentKey} above it is finished.`,
  ),
  "linked ended": withParameters("linked ended", {
    title: "what it is linked to has ended",
    parameters: { way: z.enum(LINK_WAY_WORDS), how: z.enum(["delivered", "any end"]) },
    begins: { way: "waits for", how: "delivered" },
    editors: {
      way: {
        kind: "choice",
        label: "All that it",
        options: () => LINK_WAY_WORDS.map((way) => ({ value: way, label: way })),
      },
      how: {
        kind: "choice",
        label: "Ends how",
        options: () => [
          { value: "delivered", label: "is delivered" },
          { value: "any end", label: "has ended, however" },
        ],
      },
    },
    words: ({ way, how }) =>
      `all that it ${way} ${how === "delivered" ? "is delivered" : "has ended"}`,
    waitedFor: (trigger, happened) =>
      trigger.way === happened.way && (trigger.how === "any end" || happened.delivered),
    history: ({ way, key, delivered }) =>
      `All that it ${way} ${delivered ? "is delivered" : "has ended"}, ${key} last.`,
  }),
  "requester answered": plain(
    "requester answered",
    "its requester answers",
    () => "Its requester answered.",
  ),
  "first assigned": plain(
    "first assigned",
    "it is given to somebody for the first time",
    () => "It was given to somebody for the first time.",
  ),
  "days in state": withParameters("days in state", {
    title: "it has been there for some days",
    parameters: { days: z.number().positive().max(MOST_DAYS) },
    begins: { days: 14 },
    editors: { days: { kind: "number", label: "Days", least: 0.01, most: MOST_DAYS, parts: true } },
    words: ({ days }) => `it has been there for ${counted(days, "day")}`,
    waitedFor: (trigger, happened) => trigger.days <= happened.days,
    history: ({ days }) => `It had been here for ${counted(days, "day")}.`,
  }),
  "date reached": withParameters("date reached", {
    title: "its due date is reached",
    parameters: { field: z.literal("dueOn") },
    begins: { field: "dueOn" },
    editors: {},
    words: () => "its due date is reached",
    waitedFor: () => true,
    history: () => "Its due date was reached.",
  }),
};

export type TriggerKind = keyof typeof TABLE;

/** An event that makes a transition happen by itself. */
export type Trigger = RuleOf<typeof TABLE>;

export const TRIGGER_KINDS = Object.keys(TABLE) as TriggerKind[];

/** What the product knows about a kind; its parameters are those of its triggers. */
export const triggerKindOf = (kind: TriggerKind) =>
  TABLE[kind] as unknown as TriggerKindOf<TriggerKind, Shape>;

/** A trigger as it is stored. */
export const triggerSchema = schemaOfKinds(TABLE);

/** A trigger of a kind, as it begins. */
export const newTrigger = (kind: TriggerKind) =>
  ({ kind, ...triggerKindOf(kind).begins }) as Trigger;

/** Whether a trigger is about an occurrence. */
export const isTriggeredBy = ({ kind, ...parameters }: Trigger, occurrence: Occurrence): boolean =>
  kind === occurrence.kind && triggerKindOf(kind).waitedFor(parameters, occurrence);

/** When a transition happens by itself: "it is deployed to production". */
export const triggerWords = ({ kind, ...parameters }: Trigger): string =>
  triggerKindOf(kind).words(parameters);

/** What happened, as the history says it: "Its change 41 was merged." */
export const occurrenceWords = (occurrence: Occurrence): string =>
  triggerKindOf(occurrence.kind).history(occurrence);
