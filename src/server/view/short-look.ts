import { createHash } from "node:crypto";
import { eq } from "drizzle-orm";
import type { Search } from "@/core/view/address";
import { database } from "@/db/connection";
import { shortLook } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";

const ID_LENGTH = 14;

/** The id of a look: the beginning of its SHA-256, so that the same look has the same one. */
function idOf(search: Search): string {
  const inOrder = Object.entries(search).sort(([a], [b]) => (a < b ? -1 : 1));
  const hash = createHash("sha256").update(JSON.stringify(inOrder)).digest("base64url");
  return hash.slice(0, ID_LENGTH);
}

/** Keeps what an address says of a look under a short id. */
export async function shortenLook(
  viewer: Viewer,
  projectKey: string,
  search: Search,
  now = Date.now(),
): Promise<{ id: string }> {
  const reader = database();
  await enterProject({ reader, viewer, where: { key: projectKey }, action: "read project" });
  const id = idOf(search);
  await reader.insert(shortLook).values({ id, search, madeAt: now }).onConflictDoNothing();
  return { id };
}

/** What a short id stands for; null where nothing does. It says nothing of any item. */
export async function readShortLook(id: string): Promise<Search | null> {
  const [found] = await database()
    .select({ search: shortLook.search })
    .from(shortLook)
    .where(eq(shortLook.id, id));
  return found?.search ?? null;
}
