import { eq } from "drizzle-orm";
import { database, transact } from "@/db/connection";
import { codeAddress, person } from "@/db/schema";
import { announce } from "../events/announce";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";

/**
 * Says who commits under a mail address, or that nobody known does. It holds wherever that address is
 * met; only people of the project can be named.
 * @throws Refused
 */
export async function setAuthor(
  viewer: Viewer,
  projectKey: string,
  { mail, personId }: { mail: string; personId: string | null },
  now = Date.now(),
): Promise<void> {
  const where = { key: projectKey };
  const { project } = await enterProject({
    ...{ reader: database(), viewer, where, action: "edit workflow" },
  });
  await transact(async (tx) => {
    const [own] = await tx.select({ name: person.name }).from(person).where(eq(person.email, mail));
    if (own)
      throw invalid(`${own.name} signs in with that address.`, "It is theirs, and stays so.");
    if (personId === null) await tx.delete(codeAddress).where(eq(codeAddress.mail, mail));
    else {
      const { people } = await roster(tx, project.id);
      if (!people.some(({ id }) => id === personId))
        throw invalid("They are not in this project.", "Choose one of its people.");
      const set = { personId, setBy: viewer.personId, setAt: now };
      await tx
        .insert(codeAddress)
        .values({ mail, ...set })
        .onConflictDoUpdate({ target: codeAddress.mail, set });
    }
    await announce(tx, project.id, { kind: "code changed", data: { itemId: null } }, now);
  });
}
