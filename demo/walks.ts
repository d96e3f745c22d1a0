import { DAY, MINUTE, type Instant } from "@/core/calendar/instant";
import { isInProgress } from "@/core/workflow/state";
import type { walk, walkNote, walkSeen } from "@/db/schema";
import type { DemoItem } from "./history";

interface DemoWalk {
  walk: typeof walk.$inferInsert;
  seen: (typeof walkSeen.$inferInsert)[];
  notes: (typeof walkNote.$inferInsert)[];
}

const LEFT = "Whose wallet pays for visitors?";

/** The walk of two days ago: what was seen, what somebody took on, and what was left for the next. */
export function demoWalk(
  boardId: string,
  items: readonly DemoItem[],
  newId: () => string,
  now: Instant,
): DemoWalk {
  const startedAt = now - 2 * DAY;
  const id = newId();
  const gone = items.filter(
    ({ snapshot: { stateKind, typeId } }) =>
      isInProgress(stateKind) && ["story", "bug", "request"].includes(typeId),
  );
  const note = (itemId: string, byId: string) => ({ id: newId(), walkId: id, itemId, byId });
  const agreed = gone.flatMap(({ snapshot, events }) => {
    const said = events.findLast((event) => event.kind === "commented");
    if (said?.kind !== "commented" || said.actorId === null) return [];
    const { commentId } = said.new;
    const owned = { ownerId: snapshot.assigneeId ?? said.actorId, dueOn: null, text: null };
    const told = { kind: "agreed" as const, commentId, at: startedAt + 4 * MINUTE };
    return [{ ...note(snapshot.id, "ines"), ...owned, ...told }];
  });
  const last = gone.at(-1)!.snapshot.id;
  const later = { kind: "later" as const, text: LEFT, commentId: null, ownerId: null, dueOn: null };
  return {
    walk: {
      id,
      boardId,
      order: "from the end",
      minutes: 15,
      ledBy: "ines",
      startedAt,
      endedAt: startedAt + 13 * MINUTE,
      itemId: null,
    },
    seen: gone.map(({ snapshot }, i) => ({
      walkId: id,
      itemId: snapshot.id,
      at: startedAt + i * 25_000,
    })),
    notes: [
      ...agreed.slice(0, 3),
      { ...note(last, "tomas"), ...later, at: startedAt + 9 * MINUTE },
    ],
  };
}
