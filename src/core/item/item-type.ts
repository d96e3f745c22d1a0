import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";

/** The signs that an item type can have; how each is drawn is for the page. */
export const TYPE_GLYPHS = [
  "peak",
  "lozenge",
  "speech",
  "stroke",
  "square",
  "anchor",
  "wave",
  "gate",
  "flag",
  "lamp",
  "rope",
  "buoy",
] as const;
export type TypeGlyphName = (typeof TYPE_GLYPHS)[number];

export const LEVEL_WORDS = [
  "part of another item",
  "a piece of work",
  "a feature of several pieces",
  "an epic of several features",
] as const;

/** What a new project calls the levels of its items, from the lowest. */
export const FIRST_LEVEL_NAMES = ["task", "story", "feature", "epic"] as const;

/** Flow figures, forecasts and sizes are of one level at a time: tasks under an item are part of it. */
export const UNIT_LEVEL = 1;
/** From this level on an item is a large piece: it holds others that stand on their own. */
export const LARGE_LEVEL = 2;

/** What a project calls the levels of its items, from outside. */
export const levelNamesSchema = z
  .array(z.string().trim().min(1, "A level needs a name.").max(30, "Use at most 30 characters."))
  .length(FIRST_LEVEL_NAMES.length)
  .refine(
    (names) => new Set(names.map((name) => name.toLowerCase())).size === names.length,
    "Each level needs a name of its own.",
  );

/** A kind of item: it decides which workflow an item follows and which fields it has. */
export interface ItemType {
  id: string;
  name: string;
  /** task 0, story, bug and request 1, feature 2, epic 3 */
  level: number;
  workflowId: string;
  glyph: TypeGlyphName;
  /** What the description of a new item begins with, Markdown. */
  template: string;
  position: number;
  removedAt: Instant | null;
}

const id = z.string().min(1).max(64);

export const itemTypeSchema = z.object({
  id,
  name: z.string().trim().min(1, "A type needs a name.").max(40, "Use at most 40 characters."),
  level: z.number().int().min(0).max(3),
  workflowId: id,
  glyph: z.enum(TYPE_GLYPHS),
  template: z.string().max(5_000, "Use at most 5,000 characters."),
});

/** The sign by which types of bugs are known. */
export const BUG_SIGN: TypeGlyphName = "lozenge";

/** What a bug's description begins with. */
export const BUG_TEMPLATE = `**Steps to reproduce**
1.

**Expected**

**Actual**

**Environment** (version, device, place)

**Severity** and who meets it

**Workaround**

**Accepted when**
`;

/** The types that a new project begins with. */
export const FIRST_TYPES = {
  story: { id: "story", name: "Story", level: 1, glyph: "peak", template: "", position: 0 },
  bug: { id: "bug", name: "Bug", level: 1, glyph: "lozenge", template: BUG_TEMPLATE, position: 1 },
  request: { id: "request", name: "Request", level: 1, glyph: "speech", template: "", position: 2 },
  task: { id: "task", name: "Task", level: 0, glyph: "stroke", template: "", position: 3 },
} satisfies Record<string, Omit<ItemType, "workflowId" | "removedAt">>;
