import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";
import type { Pin } from "./pin";

/** So many items one person has pinned at most. */
export const MOST_PINS = 50;

const itemId = z.uuid();

export const pinBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("pin"), itemId }),
  z.object({ kind: z.literal("unpin"), itemId }),
  /** All that one has, in the order in which they are to stand. */
  z.object({ kind: z.literal("order"), ids: z.array(itemId).max(MOST_PINS) }),
]);
export type PinRequest = z.output<typeof pinBody>;

export const pinsContract = {
  /** What somebody has pinned for themselves, as far as they may see it. */
  read: contract({ method: "GET", path: "/api/pins", answer: answered<Pin[]>(), kept: "pins" }),
  /** Changes one's own pins, and tells them as they are then. */
  change: contract({
    method: "POST",
    path: "/api/pins",
    body: pinBody,
    answer: answered<Pin[]>(),
  }),
};
