import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { readCloudEvents } from "@/core/formats/cloud-event";
import { database, transact } from "@/db/connection";
import { item, membership, project } from "@/db/schema";
import { signatureOf } from "@/server/events/signature";
import { editSource, readSources } from "@/server/events/sources";
import { enterSource, takeEvents } from "@/server/events/take";
import { readItem } from "@/server/item/read";
import { readProjectCode } from "@/server/ship/read-project-code";
import { putProjectAway } from "@/server/workflow/put-away";
import { refusalOf } from "./setup/board";
import { changeSaid, commit, pushed } from "./setup/code-host";
import { GRETA, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/* One code host for two projects: believed about the items of both, as a lead of both has said. */

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

type Source = Awaited<ReturnType<typeof editSource>>;

async function post({ id, secret }: Source, ...events: object[]) {
  const body = JSON.stringify(events);
  const timestamp = String(Math.floor(Date.now() / 1000));
  const signature = signatureOf(secret!, "msg", timestamp, body);
  const entered = await enterSource({
    ...{ sourceId: id, headers: { id: "msg", timestamp, signature }, body },
  });
  if (entered.kind !== "source") throw new Error(entered.kind);
  return takeEvents(entered, readCloudEvents("application/cloudevents-batch+json", body));
}
const host = () => editSource(GRETA, "TIX", { kind: "add", name: `Host ${randomUUID()}` });
const attach = (source: Source, on: boolean, projectKey = "GATE", who = GRETA) =>
  editSource(who, "TIX", { kind: "attach", id: source.id, projectKey, on });
const openKey = async (projectId: string, at = 0) => {
  const rows = await database()
    .select({ number: item.number })
    .from(item)
    .where(eq(item.projectId, projectId))
    .orderBy(item.number)
    .limit(at + 1);
  return `${projectId.toUpperCase()}-${rows[at].number}`;
};
const named = async (key: string, hash: string) => {
  const { works, mentions } = (await readItem(GRETA, key)).code;
  return [...mentions, ...works.flatMap(({ commits }) => commits)].some((one) => one.hash === hash);
};

test("it is believed about the items of both, and of no third; the repository is heard in both", async () => {
  const source = await host();
  const [tix, gate, tide] = [await openKey("tix"), await openKey("gate"), await openKey("tide")];
  const repository = `shared-${randomUUID().slice(0, 6)}`;
  const push = () => {
    const said = commit(`${tix}, ${gate}, ${tide}: one change for all`);
    return { said, event: pushed(`work-${randomUUID()}`, [said], { repository }) };
  };
  const before = push();
  expect((await post(source, before.event)).items).toEqual([tix]);
  await attach(source, true);
  const after = push();
  expect((await post(source, after.event)).items.toSorted()).toEqual([gate, tix]);
  expect(await named(gate, after.said.id)).toBe(true);
  expect(await named(tide, after.said.id)).toBe(false);
  const heard = async (key: string) =>
    (await readProjectCode(GRETA, key)).branches.some((one) => one.repository === repository);
  expect([await heard("TIX"), await heard("GATE")]).toEqual([true, true]);

  await attach(source, false);
  expect((await post(source, push().event)).items).toEqual([tix]);
  expect(await heard("GATE")).toBe(false);
});

test("where one of the projects was put away, the items of the other hear what is said of both", async () => {
  const source = await host();
  await attach(source, true);
  const [tix, gate] = [await openKey("tix", 2), await openKey("gate", 2)];
  const push = () => pushed(`work-${randomUUID()}`, [commit(`${tix}, ${gate}: for both`)]);
  await putProjectAway(GRETA, "GATE", true);
  try {
    expect(await post(source, push(), push())).toMatchObject({ items: [tix], passedOver: 0 });
    const alone = pushed(`work-${randomUUID()}`, [commit(`${gate}: for one`)]);
    expect((await post(source, alone)).items).toEqual([]);
  } finally {
    await putProjectAway(GRETA, "GATE", false);
  }
  expect((await post(source, push())).items.toSorted()).toEqual([gate, tix]);
});

test("of a post in which one event cannot be stored all before it are kept, and sent again the rest is taken", async () => {
  const source = await host();
  const tix = await openKey("tix", 3);
  const change = (name: string) =>
    changeSaid("created", name, { title: `${tix}: ${name}` }, { repository: "kept" });
  const events = [change("before"), change("breaks"), change("after")];
  await database().execute(sql`
    create function breaks() returns trigger language plpgsql as
      $$ begin raise exception 'it breaks'; end $$`);
  await database().execute(sql`
    create trigger breaks before insert on code_change for each row
    when (new.name = 'breaks') execute function breaks()`);
  const known = async () => {
    const [row] = await database()
      .select({ outside: item.outside })
      .from(item)
      .where(and(eq(item.projectId, "tix"), eq(item.number, Number(tix.split("-")[1]))));
    const ours = ["before", "breaks", "after"];
    return row.outside.changes.map(({ id }) => id).filter((id) => ours.includes(id));
  };
  await expect(post(source, ...events)).rejects.toThrow();
  expect(await known()).toEqual(["before"]);
  await database().execute(sql`drop trigger breaks on code_change`);
  // Whoever sends again sends all of it; the first was taken already.
  expect(await post(source, ...events)).toMatchObject({ items: [tix], passedOver: 0 });
  expect(await known()).toEqual(["before", "breaks", "after"]);
});

test("a commit closes items of each project by that project's own words, from when it listened on", async () => {
  const source = await host();
  await attach(source, true);
  const [tix, gate] = [await openKey("tix", 1), await openKey("gate", 1)];
  await database()
    .update(project)
    .set({ closingWords: ["ends"] })
    .where(eq(project.id, "gate"));
  const onMain = (message: string, more: object = {}) =>
    post(source, pushed("main", [commit(message, more)], { repository: "both", main: true }));
  const said = async (key: string) =>
    (await readItem(GRETA, key)).history.filter(({ words }) =>
      words.includes("says that it is done"),
    ).length;
  const count = async () => [await said(tix), await said(gate)];
  const [first, second] = await count();
  await onMain(`Fixes ${tix}, ${gate}`);
  expect(await count()).toEqual([first + 1, second]);
  await onMain(`Ends ${gate}`);
  expect(await count()).toEqual([first + 1, second + 1]);
  // Written before anybody listened: history.
  await onMain(`Ends ${gate} of old`, { authoredAt: "2020-01-01T00:00:00Z" });
  expect(await count()).toEqual([first + 1, second + 1]);
});

test("only who leads both attaches it, and only to another project than its own", async () => {
  const source = await host();
  await transact(async (tx) => {
    await tx.update(membership).set({ role: "member" }).where(eq(membership.projectId, "gate"));
  });
  expect(await refusalOf(attach(source, true, "GATE", INES))).toBe("not allowed");
  expect(await refusalOf(attach(source, true, "GATE", NOOR))).toBe("not allowed");
  expect(await refusalOf(attach(source, true, "TIX"))).toBe("not found");
  const elsewhere = editSource(GRETA, "TIDE", {
    ...{ kind: "attach", id: source.id, projectKey: "GATE", on: true },
  });
  expect(await refusalOf(elsewhere)).toBe("not found");
  await attach(source, true);
  const [seen] = (await readSources(GRETA, "GATE")).sources.filter(({ id }) => id === source.id);
  expect(seen).toMatchObject({ of: { key: "TIX" }, alsoFor: [{ key: "GATE" }] });
  // It is taken out where it was added, not where it only speaks too.
  const taken = editSource(GRETA, "GATE", { kind: "remove", id: source.id });
  expect(await refusalOf(taken)).toBe("not found");
});
