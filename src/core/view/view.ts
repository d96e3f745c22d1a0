import { z } from "zod";
import { conditionSchema } from "@/core/condition/condition";
import type { Asker } from "@/core/condition/evaluate";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { Instant } from "@/core/calendar/instant";
import type { NamedCondition } from "./filter-words";
import { foldsSchema, type Folds } from "./folds";
import type { KnownBoard } from "./proposals";
import { lookParts, lookSchema, LOOK_PARTS, type Look } from "./look";

/** Whose a view is: mine; mine and seen by all; or the project's, which leads change. */
export const SHARINGS = ["mine", "shown", "project"] as const;
export type Sharing = (typeof SHARINGS)[number];

/** A look that is kept under a name. */
export interface View {
  id: string;
  name: string;
  sharing: Sharing;
  /** Whose it is; null where it is the project's. */
  owner: { id: string; name: string; gone: boolean } | null;
  look: Look;
  version: number;
  /** Where it stands in everybody's frame; null: nowhere. */
  place: number | null;
  favourite: boolean;
  /** Whether this person hears of what it shows. */
  followed: boolean;
  mayChange: boolean;
}

/** All that a person can look at in a project. */
export interface Views {
  views: View[];
  named: NamedCondition[];
  boards: KnownBoard[];
  vocabulary: Vocabulary;
  /** IANA zone in which days are counted. */
  zone: string;
  /** The people of each team, by its id. */
  members: Readonly<Record<string, readonly string[]>>;
  /** Who looks, as conditions ask for it. */
  asker: Pick<Asker, "personId" | "teamIds" | "sprints">;
  /** What this person has folded away, by the view or the board. */
  folds: Readonly<Record<string, Folds>>;
  /** What this person may do with views, and with the items in them. */
  rights: {
    keep: boolean;
    share: boolean;
    lead: boolean;
    edit: boolean;
    move: boolean;
    /** Make items here. */
    add: boolean;
  };
}

/** A view as leads see it among all of the project. */
export interface ViewUse {
  id: string;
  name: string;
  owner: string | null;
  place: number | null;
  openedAt: Instant | null;
  /** How many people opened it in the last month. */
  people: number;
  /** Another that shows nearly the same. */
  like: { id: string; name: string; how: string[] } | null;
  awayAt: Instant | null;
}

/** What leads see of the views of a project. */
export interface ViewUses {
  uses: ViewUse[];
  /** Items that are not finished and that no shared view shows. */
  unseen: { count: number; keys: string[] };
  now: Instant;
}

const id = z.uuid();
const name = z.string().trim().min(1, "A view needs a name.").max(60, "Use at most 60 characters.");
const sharing = z.enum(SHARINGS);

/** The parts of a view that are changed by themselves, so that two people's changes go together. */
export const VIEW_PARTS = ["name", "sharing", ...LOOK_PARTS] as const;
export type ViewPart = (typeof VIEW_PARTS)[number];

/** What is changed of a view; what is left out stays. */
export const viewChanges = z
  .object({ name, sharing, ...lookParts })
  .partial()
  .strict();
export type ViewChanges = z.output<typeof viewChanges>;

export const viewBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("make"), id, name, sharing, look: lookSchema }),
  z.object({
    kind: z.literal("change"),
    id,
    version: z.number().int().min(1),
    changes: viewChanges,
  }),
  z.object({ kind: z.literal("put away"), id }),
  z.object({ kind: z.literal("bring back"), id }),
  z.object({ kind: z.literal("favourite"), id, on: z.boolean() }),
  /** The views of everybody's frame, in their order. */
  z.object({ kind: z.literal("frame"), ids: z.array(id).max(20, "Use at most 20 of them.") }),
  /** What the person who says so has folded away of a view, or of a board without one. */
  z.object({ kind: z.literal("fold"), place: z.string().min(1).max(64), folds: foldsSchema }),
  z.object({ kind: z.literal("name condition"), id, name, condition: conditionSchema }),
  z.object({ kind: z.literal("unname condition"), id }),
]);
export type ViewRequest = z.output<typeof viewBody>;
