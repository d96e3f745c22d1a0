import { and, eq, inArray, or, sql } from "drizzle-orm";
import { cutText } from "@/core/formats/cut-text";
import { grouped } from "@/core/item/grouped";
import { hashesIn } from "@/core/ship/hashes-in";
import type { NamedCommit } from "@/core/talk/talk-view";
import type { Reader } from "@/db/connection";
import { codeCommit, codeRepository, eventSource, itemCode } from "@/db/schema";
import { namedItems } from "../item/list/named";
import type { Viewer } from "../people/viewer";
import { peopleOfMails } from "./code-people";

/** Of so many hashes in texts it is looked up what they are. */
const MOST = 50;
const SUBJECT = 200;

/**
 * Commits of a project's repositories that texts name by their hashes, by these as they are written. One
 * that fits two commits is no name; what was done for items that a person may not see is left out.
 */
export async function commitsNamed(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
  texts: readonly string[],
): Promise<Record<string, NamedCommit>> {
  const hashes = [...new Set(texts.flatMap(hashesIn))].slice(0, MOST);
  if (hashes.length === 0) return {};
  const begins = hashes.map((hash) => sql`starts_with(${codeCommit.hash}, ${hash})`);
  const rows = await reader
    .select({ commit: codeCommit, repository: codeRepository.name })
    .from(codeCommit)
    .innerJoin(codeRepository, eq(codeRepository.id, codeCommit.repositoryId))
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .where(and(eq(eventSource.projectId, projectId), or(...begins)))
    .limit(2 * MOST);
  if (rows.length === 0) return {};
  const links = await reader
    .select()
    .from(itemCode)
    .where(
      inArray(
        itemCode.name,
        rows.flatMap(({ commit }) => [commit.hash, commit.branch]),
      ),
    );
  const seen = await namedItems(
    viewer,
    links.map(({ itemId }) => itemId),
    reader,
  );
  const byPlace = grouped(links, ({ repositoryId, name }) => `${repositoryId} ${name}`);
  const shown = rows.filter(({ commit: { repositoryId, hash, branch } }) =>
    [hash, branch]
      .flatMap((name) => byPlace.get(`${repositoryId} ${name}`) ?? [])
      .every(({ itemId }) => seen.has(itemId)),
  );
  const person = await peopleOfMails(
    reader,
    shown.map(({ commit }) => commit.authorMail),
  );
  return Object.fromEntries(
    hashes.flatMap((written) => {
      const fitting = shown.filter(({ commit }) => commit.hash.startsWith(written));
      if (fitting.length !== 1) return [];
      const [{ commit, repository }] = fitting;
      const named: NamedCommit = {
        ...{ hash: commit.hash, repository, url: commit.url, onMain: commit.mainAt !== null },
        subject: cutText(commit.message.trimStart().split("\n", 1)[0], SUBJECT),
        by: person(commit.authorMail, commit.authorName).name,
      };
      return [[written, named] as const];
    }),
  );
}
