import { createHash, randomUUID } from "node:crypto";
import { delivery } from "./events";

/*
 * Events as a code host sends them: those that CDEvents has words for in its form, pushes in the form
 * of the product's own.
 */

const WHO = { name: "Ines Dahl", mail: "ines.dahl@saltmarsh.example" };

/** A hash that is the same for the same words. */
export const hashOf = (words: string): string => createHash("sha1").update(words).digest("hex");

export interface SaidCommit {
  id: string;
  parents: string[];
  author: { name: string; mail: string };
  authoredAt: string;
  message: string;
  files: number;
  insertions: number;
  deletions: number;
}

/** A commit with a message, after another one. */
export const commit = (
  message: string,
  { after = [], ...more }: Partial<SaidCommit> & { after?: SaidCommit[] } = {},
): SaidCommit => ({
  id: hashOf(randomUUID()),
  parents: after.map(({ id }) => id),
  author: WHO,
  // Later than when any test began to listen to the host.
  authoredAt: "2027-11-23T10:00:00Z",
  message,
  files: 2,
  insertions: 10,
  deletions: 3,
  ...more,
});

const at = (event: ReturnType<typeof delivery>, time: string | undefined) =>
  time === undefined ? event : { ...event, time };

export function pushed(
  branch: string,
  commits: SaidCommit[],
  {
    repository = "ticket-prices",
    time,
    ...said
  }: {
    repository?: string;
    time?: string;
    main?: boolean;
    forced?: boolean;
    head?: string;
    url?: string;
  } = {},
) {
  const event = delivery(
    "pushed",
    { id: branch, content: { repository: { id: repository } } },
    { head: commits.at(-1)?.id, by: WHO, commits, ...said },
  );
  return at({ ...event, type: "dev.cdeventsx.zigzag-commits.pushed.0.1.0" }, time);
}

export const changeSaid = (
  predicate: "created" | "updated" | "merged" | "abandoned" | "reviewed",
  change: string,
  said: object = {},
  { repository = "ticket-prices", time }: { repository?: string; time?: string } = {},
) =>
  at(
    delivery(
      `change.${predicate}`,
      { id: change, content: { repository: { id: repository } } },
      { author: WHO, ...said },
    ),
    time,
  );
