import { and, eq, inArray } from "drizzle-orm";
import { keysIn } from "@/core/item/mask-keys";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { hiddenFrom, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";

/** Of the keys in sentences that the product wrote, those of items that a person may not see. */
export async function hiddenKeys(
  reader: Reader,
  viewer: Viewer,
  { project }: ProjectAccess,
  sentences: readonly string[],
): Promise<ReadonlySet<string>> {
  if (viewer.administrator) return new Set();
  const own = `${project.key}-`;
  const numbers = new Set(
    sentences
      .flatMap(keysIn)
      .filter((k) => k.startsWith(own))
      .map((k) => Number(k.slice(own.length))),
  );
  if (numbers.size === 0) return new Set();
  const rows = await reader
    .select({ number: item.number })
    .from(item)
    .where(
      and(
        eq(item.projectId, project.id),
        inArray(
          item.number,
          [...numbers].filter((n) => n <= 2_147_483_647),
        ),
        hiddenFrom(reader, viewer),
      ),
    );
  return new Set(rows.map((r) => own + r.number));
}
