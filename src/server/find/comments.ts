import { and, desc, eq, sql } from "drizzle-orm";
import type { FoundComment } from "@/core/find/found";
import type { Wanted } from "@/core/find/wanted";
import type { Reader } from "@/db/connection";
import { comment, item, person, project } from "@/db/schema";
import { seenIn } from "../item/list/enter";
import type { Viewer } from "../people/viewer";
import { excerpt, excerptOf, hasWords } from "./words";

const DOCUMENT = sql`to_tsvector('english', ${comment.body})`;

/** Comments in which the words stand, on items that a person may see; the latest first. */
export async function findComments(
  reader: Reader,
  viewer: Viewer,
  { wanted, projectIds, limit }: { wanted: Wanted; projectIds: readonly string[]; limit: number },
): Promise<FoundComment[]> {
  if (wanted.words.length === 0 || projectIds.length === 0) return [];
  const found = reader
    .select({ id: comment.id, itemId: comment.itemId })
    .from(comment)
    .innerJoin(item, eq(item.id, comment.itemId))
    .where(and(hasWords(DOCUMENT, wanted), seenIn(reader, viewer, projectIds).where))
    .orderBy(desc(comment.at), desc(comment.id))
    .limit(limit)
    .as("found");
  const rows = await reader
    .select({
      id: comment.id,
      projectKey: project.key,
      number: item.number,
      title: item.title,
      author: person.name,
      at: comment.at,
      excerpt: excerpt(comment.body, wanted),
    })
    .from(found)
    .innerJoin(comment, and(eq(comment.itemId, found.itemId), eq(comment.id, found.id)))
    .innerJoin(item, eq(item.id, comment.itemId))
    .innerJoin(project, eq(project.id, item.projectId))
    .leftJoin(person, eq(person.id, comment.authorId))
    .orderBy(desc(comment.at), desc(comment.id));
  return rows.map(({ projectKey, number, author, excerpt: marked, ...row }) => ({
    ...row,
    itemKey: `${projectKey}-${number}`,
    author: author ?? "somebody",
    excerpt: excerptOf(marked),
  }));
}
