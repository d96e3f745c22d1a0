import { MINUTE, type Instant } from "@/core/calendar/instant";
import type { DemoItem } from "./history";

/** What people say in the rounds of the demo; null: they cannot say. */
const SAID: Record<string, number | null>[] = [
  { ivo: 3, noor: 8, ruth: 5, tomas: null },
  { ivo: 5, ruth: 5 },
];

/** Two rounds about what nobody has sized: what was said in the first is shown. */
export function demoSizing(items: readonly DemoItem[], newId: () => string, now: Instant) {
  const unsized = items
    .map(({ snapshot }) => snapshot)
    .filter(
      ({ stateKind, estimate, typeId, withdrawnAt, restricted }) =>
        stateKind === "unstarted" &&
        estimate === null &&
        typeId === "story" &&
        withdrawnAt === null &&
        !restricted,
    )
    .toSorted((a, b) => (a.rank < b.rank ? -1 : 1))
    .slice(0, SAID.length);
  const rounds = unsized.map(({ id, projectId }, i) => ({
    id: newId(),
    projectId,
    itemId: id,
    openedBy: "ines",
    openedAt: now - (30 - 10 * i) * MINUTE,
    shownAt: i === 0 ? now - 5 * MINUTE : null,
    again: 0,
    endedAt: null,
  }));
  const votes = rounds.flatMap(({ id, openedAt }, i) =>
    Object.entries(SAID[i]).map(([personId, size], n) => ({
      roundId: id,
      personId,
      size,
      at: openedAt + (n + 1) * MINUTE,
    })),
  );
  return { rounds, votes };
}
