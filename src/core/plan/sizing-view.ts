import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import type { SizeScale } from "./size-scale";

/** A finished item that is much like another one, with how large it was and how long it took. */
export interface AlikeSized {
  id: string;
  key: string;
  title: string;
  size: number;
  /** From its commitment to its finish, both days counted. */
  days: number;
  /** From 0 to 1. */
  score: number;
}

/** What somebody said of the size of an item, in a round. */
export interface SizingVote {
  personId: string;
  name: string;
  /** Null: they cannot say; undefined: it is not shown yet. */
  size: number | null | undefined;
}

/** A round in which several people say how large an item is, each for themselves first. */
export interface SizingRound {
  id: string;
  item: { id: string; key: string; title: string; typeId: string; version: number };
  openedBy: string;
  openedAt: Instant;
  /** Whether all may see what was said. */
  shown: boolean;
  /** How many times it was done over. */
  again: number;
  votes: SizingVote[];
  /** What one said oneself; undefined: nothing yet. */
  mine: number | null | undefined;
}

export interface SizingView {
  project: { key: string; name: string };
  scale: SizeScale;
  rounds: SizingRound[];
  /** The first of the backlog that nobody has sized. */
  unsized: { id: string; key: string; title: string; typeId: string }[];
  unsizedTotal: number;
  rights: { size: boolean };
}

export const UNSIZED_SHOWN = 30;

const id = z.uuid();
const size = z.number().min(0).max(1_000);

export const sizingBody = z.discriminatedUnion("kind", [
  /** Begins a round about an item; there is one at a time about each. */
  z.object({ kind: z.literal("open"), id, itemId: z.uuid() }),
  z.object({ kind: z.literal("say"), id, size: size.nullable() }),
  z.object({ kind: z.literal("show"), id }),
  /** What was said is gone, and is said anew. */
  z.object({ kind: z.literal("again"), id }),
  z.object({ kind: z.literal("settle"), id, size }),
  /** It ends without a size. */
  z.object({ kind: z.literal("leave"), id }),
]);
export type SizingAct = z.output<typeof sizingBody>;

export const alikeQuery = z.object({ item: z.uuid() });

/**
 * What those who said something differ in: the least and the most, and who said each; null where all
 * say the same or fewer than two said a size.
 */
export function spreadOf(
  votes: readonly SizingVote[],
): { least: SizingVote[]; most: SizingVote[] } | null {
  const said = votes.filter((vote) => typeof vote.size === "number");
  if (said.length < 2) return null;
  const sizes = said.map((vote) => vote.size as number);
  const [low, high] = [Math.min(...sizes), Math.max(...sizes)];
  if (low === high) return null;
  return {
    least: said.filter((vote) => vote.size === low),
    most: said.filter((vote) => vote.size === high),
  };
}
