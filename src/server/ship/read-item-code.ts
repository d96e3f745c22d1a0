import type { ItemSnapshot } from "@/core/item/fields";
import type { LinkedChange } from "@/core/item/outside";
import { inOrderOfWork, type CodeWork, type ItemCode } from "@/core/ship/item-code";
import type { Reader } from "@/db/connection";
import { peopleOfMails } from "./code-people";
import { repositoriesOf } from "./repository";
import { readItemPresence } from "./item-presence";
import { readCodeRows } from "./code-rows";
import { commitView, mailsIn, worksOf } from "./works";

/**
 * What an item has in the code hosts that its project hears of. Whoever may see the item may see it.
 */
export async function readItemCode(
  reader: Reader,
  { id, projectId, outside }: Pick<ItemSnapshot, "id" | "projectId" | "outside">,
  key: string,
): Promise<Omit<ItemCode, "branchName">> {
  const { changes, deployedTo } = outside;
  const [rows, [repository], environments] = await Promise.all([
    readCodeRows(reader, [id]),
    repositoriesOf(reader, projectId).limit(1),
    readItemPresence(reader, { id, key, projectId, deployedTo }),
  ]);
  const person = await peopleOfMails(reader, mailsIn(rows));
  const works = worksOf(rows, changes, person);
  const inWork = new Set(works.flatMap((work) => work.commits.map(({ hash }) => hash)));
  return {
    heard: repository !== undefined,
    environments,
    works: inOrderOfWork([...works, ...byNameAlone(changes, rows.changes)]),
    mentions: rows.commits
      .filter(({ hash }) => !inWork.has(hash))
      .map((row) => ({
        ...commitView(row, person),
        repository: rows.repositories.get(row.repositoryId)!,
      })),
  };
}

/** Changes of which the events say no more than their names. */
export const byNameAlone = (
  linked: readonly LinkedChange[],
  known: readonly { name: string }[],
): CodeWork[] =>
  linked
    .filter(({ id }) => !known.some(({ name }) => name === id))
    .map(({ id, status, checks }) => ({
      ...{ id, repository: null, branch: null, branchGone: false, branchUrl: null, commits: [] },
      ...{ size: null, at: 0 },
      change: {
        ...{ name: id, title: "", status, by: null, openedAt: null, endedAt: null, checks },
        ...{ reviews: [], behind: null, mergesCleanly: null, url: null },
      },
    }));
