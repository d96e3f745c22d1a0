import { inArray, sql } from "drizzle-orm";
import type { CodePerson } from "@/core/ship/item-code";
import type { Reader } from "@/db/connection";
import { codeAddress, person } from "@/db/schema";

/** Who commits under some mail addresses: by their own address, or one that was set for them. */
export async function peopleOfMails(
  reader: Reader,
  mails: readonly (string | null)[],
): Promise<(mail: string, name: string) => CodePerson> {
  const wanted = [...new Set(mails.flatMap((mail) => mail?.toLowerCase() ?? []))];
  const known = new Map<string, { id: string; name: string }>();
  if (wanted.length > 0) {
    const own = sql<string>`lower(${person.email})`;
    const [byMail, set] = await Promise.all([
      reader
        .select({ mail: own, id: person.id, name: person.name })
        .from(person)
        .where(inArray(own, wanted)),
      reader
        .select({ mail: codeAddress.mail, id: person.id, name: person.name })
        .from(codeAddress)
        .innerJoin(person, sql`${person.id} = ${codeAddress.personId}`)
        .where(inArray(codeAddress.mail, wanted)),
    ]);
    for (const { mail, id, name } of [...byMail, ...set]) known.set(mail, { id, name });
  }
  return (mail, name) => {
    const here = known.get(mail.toLowerCase());
    return here ? { name: here.name, personId: here.id } : { name: name || mail, personId: null };
  };
}
