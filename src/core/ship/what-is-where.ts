import type { Instant } from "@/core/calendar/instant";
import type { OutsideFact } from "@/core/item/outside";
import { environmentKey } from "./environment";

/*
 * What of an item stands on which environment. A deployment puts a commit there, and with it all that
 * came before; an item is there when all of what was merged for it is.
 */

/** The environments that have all of an item. */
export const wholeOn = (presences: readonly Presence[]): ReadonlySet<string> =>
  new Set(presences.filter(({ whole }) => whole).map(({ environment }) => environment));

/** A commit that was merged for an item. */
export interface MergedCommit {
  repositoryId: string;
  hash: string;
  mergedAt: Instant;
  /** The commit on main that took it back; null where none did. */
  revertedBy: string | null;
}

/** That a commit stands somewhere. */
export interface Standing {
  repositoryId: string;
  hash: string;
  /** Of an environment, in small letters. */
  environment: string;
  /** Which of the parts that are deployed by themselves has it. */
  part: string;
  since: Instant;
}

/** A part that something was deployed of, on an environment. */
export type DeployedPart = Pick<Standing, "repositoryId" | "environment" | "part">;

/** How much of an item is on an environment: all, or only some of what was merged for it. */
export interface Presence {
  environment: string;
  whole: boolean;
  /** Since when as much as now. */
  since: Instant;
}

const named = (...parts: string[]): string => parts.join("\n");

/**
 * Where an item stands. What was taken back counts for nothing on an environment that has the commit
 * that took it back, and is not waited for anywhere.
 * @param merged all that is on main for the item
 * @param standings of those commits, and of the commits that took them back
 * @param parts what is deployed where, of the repositories that those commits are in
 * @returns one for each environment that has something of it
 */
export function presencesOf(
  merged: readonly MergedCommit[],
  standings: readonly Standing[],
  parts: readonly DeployedPart[],
): Presence[] {
  const since = new Map(
    standings.map((one) => [
      named(one.environment, one.part, one.repositoryId, one.hash),
      one.since,
    ]),
  );
  // What is never deployed anywhere, such as pages of help, is not waited for.
  const deployable = new Set(parts.map(({ repositoryId }) => repositoryId));
  const counted = merged.filter(({ repositoryId }) => deployable.has(repositoryId));
  return [...new Set(parts.map(({ environment }) => environment))].flatMap((environment) => {
    const own = parts.filter((one) => one.environment === environment);
    const there: Instant[] = [];
    let missing = 0;
    for (const { repositoryId, hash, revertedBy } of counted) {
      const places = own.filter((part) => part.repositoryId === repositoryId);
      if (places.length === 0 && revertedBy === null) missing += 1;
      for (const { part } of places) {
        const at = (one: string) => since.get(named(environment, part, repositoryId, one));
        const stands = at(hash);
        const takenBack = revertedBy !== null && at(revertedBy) !== undefined;
        if (stands !== undefined && !takenBack) there.push(stands);
        else if (revertedBy === null) missing += 1;
      }
    }
    if (there.length === 0) return [];
    return [{ environment, whole: missing === 0, since: Math.max(...there) }];
  });
}

/** When the last of it came to main; null where nothing of it is there. */
export function mergedSince(merged: readonly MergedCommit[]): Instant | null {
  const standing = merged.filter(({ revertedBy }) => revertedBy === null);
  return standing.length === 0 ? null : Math.max(...standing.map(({ mergedAt }) => mergedAt));
}

/**
 * What an item has to be told, so that what it knows of where it is becomes true.
 * @param believed the environments that it knows itself to be on
 * @param heard those of which deployments were told at all, as they are called, by their names in
 *   small letters: of any other nothing is known here
 */
export function factsOfPresence(
  presences: readonly Presence[],
  believed: readonly string[],
  heard: ReadonlyMap<string, string>,
): OutsideFact[] {
  const whole = new Set(presences.filter((one) => one.whole).map((one) => one.environment));
  const known = new Map(believed.map((name) => [environmentKey(name), name]));
  const gone = [...known].filter(([key]) => heard.has(key) && !whole.has(key));
  const come = [...whole].filter((key) => !known.has(key));
  return [
    ...gone.map(([, environment]): OutsideFact => ({ kind: "deployed no more", environment })),
    ...come.map((key): OutsideFact => ({ kind: "deployed", environment: heard.get(key) ?? key })),
  ];
}
