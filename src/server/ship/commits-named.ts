import { and, inArray, or, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { hashesIn } from "@/core/ship/hashes-in";
import { subjectOf } from "@/core/ship/subject";
import type { NamedCommit } from "@/core/talk/talk-view";
import type { Reader } from "@/db/connection";
import { codeCommit, itemCode } from "@/db/schema";
import { namedItems } from "../item/list/named";
import type { Viewer } from "../people/viewer";
import { peopleOfMails } from "./code-people";
import { repositoriesOf } from "./repository";

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
  const repositories = new Map(
    (await repositoriesOf(reader, projectId)).map(({ id, name }) => [id, name]),
  );
  const rows = await reader
    .select()
    .from(codeCommit)
    .where(and(inArray(codeCommit.repositoryId, [...repositories.keys()]), or(...begins)))
    .limit(2 * MOST);
  if (rows.length === 0) return {};
  const links = await reader
    .select()
    .from(itemCode)
    .where(
      inArray(
        itemCode.name,
        rows.flatMap(({ hash, branch }) => [hash, branch]),
      ),
    );
  const seen = await namedItems(
    viewer,
    links.map(({ itemId }) => itemId),
    reader,
  );
  const byPlace = grouped(links, ({ repositoryId, name }) => `${repositoryId} ${name}`);
  const shown = rows.filter(({ repositoryId, hash, branch }) =>
    [hash, branch]
      .flatMap((name) => byPlace.get(`${repositoryId} ${name}`) ?? [])
      .every(({ itemId }) => seen.has(itemId)),
  );
  const person = await peopleOfMails(
    reader,
    shown.map(({ authorMail }) => authorMail),
  );
  return Object.fromEntries(
    hashes.flatMap((written) => {
      const fitting = shown.filter(({ hash }) => hash.startsWith(written));
      if (fitting.length !== 1) return [];
      const [commit] = fitting;
      const named: NamedCommit = {
        ...{ hash: commit.hash, url: commit.url, onMain: commit.mainAt !== null },
        repository: repositories.get(commit.repositoryId)!,
        subject: subjectOf(commit.message, SUBJECT),
        by: person(commit.authorMail, commit.authorName).name,
      };
      return [[written, named] as const];
    }),
  );
}
