import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { NEW_OWN_RULE, type OwnRule } from "@/core/alerts/own-rule";
import { DAY, MINUTE } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { alert, alertRule, item } from "@/db/schema";
import { removeOwnRule, saveOwnRule, ruleGround } from "@/server/alerts/own-rules";
import { readAlertRules, chooseAlerts } from "@/server/alerts/rules";
import { tryRule } from "@/server/alerts/try-rule";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, refusalOf, send } from "./setup/board";
import { settle } from "./setup/events";
import { ARTHUR, GRETA, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { toldTo } from "./setup/told";

givenTestDatabase();
beforeAll(async () => {
  await database().delete(alert);
});

const RULE: OwnRule = { ...NEW_OWN_RULE, projectKey: "TIX" };
const ruleOf = async (viewer: Viewer, rule: Partial<OwnRule>, id = randomUUID()) => {
  await saveOwnRule(viewer, { id, rule: { ...RULE, ...rule } });
  return id;
};
const edit = async (by: Viewer, id: string, changes: object) => {
  const [row] = await database().select().from(item).where(eq(item.id, id));
  await send(by, id, { kind: "edit", seenVersion: row.version, changes });
};
const told = async (viewer: Viewer, id: string) => {
  await settle();
  const [{ number }] = await database()
    .select({ number: item.number })
    .from(item)
    .where(eq(item.id, id));
  return (await toldTo(viewer)).filter((one) => one.itemKey === `TIX-${number}`);
};

describe("rules of one's own", () => {
  test("tell of what they say, by their name, once, and not of one's own doing", async () => {
    const rule = await ruleOf(TOMAS, {
      name: "Priorities",
      happens: ["changed"],
      fields: ["priority"],
    });
    const id = await itemIn(NOOR, "Shelter with a wet bench");
    await edit(NOOR, id, { place: "North quay" });
    expect(await told(TOMAS, id)).toEqual([]);
    await edit(NOOR, id, { priority: "urgent" });
    const [one, ...more] = await told(TOMAS, id);
    expect(more).toEqual([]);
    expect(one).toMatchObject({ why: ["Priorities"], who: "Noor Bakri" });
    expect(one.words).toContain("priority");
    await edit(TOMAS, id, { priority: "low" });
    expect(await told(TOMAS, id)).toHaveLength(1);
    await removeOwnRule(TOMAS, { id: rule, removed: true });
  });

  test("a rule that is off, taken out or a stranger's tells nobody; brought back it tells again", async () => {
    const rule = await ruleOf(TOMAS, { happens: ["blocked"] });
    const block = async () => {
      const id = await itemIn(NOOR, "Ladder", "Ready", "Building");
      await send(NOOR, id, { kind: "block", cause: "No ladder", waitingFor: null });
      return (await told(TOMAS, id)).length;
    };
    expect(await block()).toBe(1);
    await saveOwnRule(TOMAS, { id: rule, rule: { ...RULE, happens: ["blocked"], off: true } });
    expect(await block()).toBe(0);
    await saveOwnRule(TOMAS, { id: rule, rule: { ...RULE, happens: ["blocked"] } });
    await removeOwnRule(TOMAS, { id: rule, removed: true });
    expect(await block()).toBe(0);
    await removeOwnRule(TOMAS, { id: rule, removed: false });
    expect(await block()).toBe(1);
    expect(await refusalOf(removeOwnRule(NOOR, { id: rule, removed: true }))).toBe("not found");
    expect(await refusalOf(saveOwnRule(NOOR, { id: rule, rule: RULE }))).toBe("not found");
    await removeOwnRule(TOMAS, { id: rule, removed: true });
  });

  test("a condition is asked of the item as it is then, with “me” as whoever's rule it is", async () => {
    const mine = { kind: "compare", fact: "reviewerId", op: "is", value: { who: "me" } } as const;
    await ruleOf(TOMAS, { happens: ["expedited"], condition: mine });
    const [his, hers] = [
      await itemIn(NOOR, "Gangway of his"),
      await itemIn(NOOR, "Gangway of hers"),
    ];
    await edit(NOOR, his, { reviewerId: "tomas" });
    await edit(NOOR, hers, { reviewerId: "ivo" });
    await settle();
    await database().delete(alert);
    for (const id of [his, hers]) await edit(NOOR, id, { classOfService: "expedite" });
    expect(
      (await told(TOMAS, his)).some(({ why }) => why.some((w) => w.startsWith("Any item"))),
    ).toBe(true);
    expect(await told(TOMAS, hers)).toEqual([]);
  });

  test("what stands around an item counts as far as its person sees it", async () => {
    const open = { kind: "compare", fact: "links", op: "contains", value: "relates to" } as const;
    await ruleOf(IVO, { name: "Linked", happens: ["blocked"], condition: open });
    await ruleOf(INES, { name: "Linked", happens: ["blocked"], condition: open });
    const secret = await itemIn(NOOR, "Keys of the vault");
    await edit(INES, secret, { restricted: true });
    const id = await itemIn(NOOR, "Vault", "Ready", "Building");
    const [{ number }] = await database()
      .select({ number: item.number })
      .from(item)
      .where(eq(item.id, secret));
    await send(NOOR, id, {
      kind: "link",
      linkKind: "relates to",
      otherKey: `TIX-${number}`,
      outward: true,
    } as never);
    await send(NOOR, id, { kind: "block", cause: "No key", waitingFor: null });
    expect((await told(INES, id)).flatMap(({ why }) => why)).toContain("Linked");
    expect((await told(IVO, id)).flatMap(({ why }) => why)).not.toContain("Linked");
  });

  test("a restricted item is told to nobody who may not see it, in no way; nor a project", async () => {
    await ruleOf(OSKAR, { projectKey: null, name: "Everything" });
    const id = await itemIn(INES, "Kept to few");
    await edit(INES, id, { restricted: true });
    await settle();
    await database().delete(alert);
    await edit(INES, id, { priority: "urgent" });
    await settle();
    const rows = await database()
      .select()
      .from(alert)
      .where(and(eq(alert.itemId, id), eq(alert.personId, "oskar")));
    expect(rows).toEqual([]);
    // Arthur is a stranger to the timetables, which only members see.
    expect(await refusalOf(ruleOf(ARTHUR, { projectKey: "TIDE" }))).toBe("not found");
    expect(await refusalOf(ruleGround(ARTHUR, "TIDE"))).toBe("not found");
    expect(await refusalOf(tryRule(ARTHUR, { ...RULE, projectKey: "TIDE" }))).toBe("not found");
    const { projects } = await readAlertRules(ARTHUR);
    expect(projects.map(({ key }) => key)).not.toContain("TIDE");
  });

  test("it can take the place of a standard rule", async () => {
    await chooseAlerts(NOOR, { rule: "commented", off: true, mail: "none", feed: false });
    const rule = await ruleOf(NOOR, {
      name: "Ivo talks",
      happens: ["commented"],
      by: { kind: "people", ids: ["ivo"] },
      mail: "at once",
    });
    const id = await itemIn(NOOR, "Bell rope");
    await send(INES, id, { kind: "comment", body: "A rope." });
    expect(await told(NOOR, id)).toEqual([]);
    await send(IVO, id, { kind: "comment", body: "A longer rope." });
    expect((await told(NOOR, id)).map(({ why }) => why)).toEqual([["Ivo talks"]]);
    const [row] = await database()
      .select()
      .from(alert)
      .where(and(eq(alert.itemId, id), eq(alert.personId, "noor")));
    expect(row.mailDueAt).not.toBeNull();
    const { own } = await readAlertRules(NOOR);
    expect(own.find((one) => one.id === rule)?.sentence).toBe(
      "Any item in Ticket app: somebody comments on it, by Ivo Sandell",
    );
  });

  test("nobody has more than anybody keeps in mind", async () => {
    const ids = await Promise.all(Array.from({ length: 60 }, () => ruleOf(GRETA, {})));
    expect(await refusalOf(ruleOf(GRETA, {}))).toBe("invalid");
    // One that is there can still be changed, and one that is taken out makes room.
    await ruleOf(GRETA, { happens: ["made"] }, ids[0]);
    await removeOwnRule(GRETA, { id: ids[1], removed: true });
    await ruleOf(GRETA, {});
    await database().delete(alertRule).where(eq(alertRule.personId, "greta"));
  });
});

describe("a trial", () => {
  test("counts what the history says was sent back, joined as alerts are", async () => {
    const now = Date.now();
    const trial = await tryRule(GRETA, { ...RULE, projectKey: null, happens: ["sent back"] }, now);
    const { rows } = await database().execute<{ itemId: string; at: Date }>(sql`
      select e.item_id as "itemId", e.at from item_event e join item i on i.id = e.item_id
      where e.kind = 'moved' and e.new ->> 'isReturn' = 'true' and e.new ->> 'kind' <> 'finished'
        and e.old ->> 'kind' <> 'finished' and e.at >= ${new Date(now - 30 * DAY).toISOString()}
        and not exists (select 1 from item_event u where u.item_id = e.item_id and u.kind = 'undone'
          and e.seq between (u.old ->> 'fromSeq')::int and (u.old ->> 'toSeq')::int)
      order by e.item_id, e.at`);
    let alerts = 0;
    let open = { itemId: "", first: 0, last: 0 };
    for (const { itemId, at: when } of rows) {
      const at = new Date(when).getTime();
      const same =
        open.itemId === itemId && at - open.last <= 5 * MINUTE && at - open.first <= 15 * MINUTE;
      if (!same) alerts += 1;
      open = { itemId, first: same ? open.first : at, last: at };
    }
    expect(alerts).toBeGreaterThan(5);
    expect(trial.count).toBe(alerts);
    expect(trial.latest.length).toBe(Math.min(8, alerts));
    expect(
      trial.latest.every(({ lines }) => lines.some(({ words }) => /sent it back/.test(words))),
    ).toBe(true);
  });

  test("asks the item as it was then", async () => {
    const id = await itemIn(NOOR, "Buoy that was urgent", "Ready", "Building");
    await edit(NOOR, id, { priority: "urgent" });
    await send(NOOR, id, { kind: "block", cause: "Storm", waitingFor: null });
    await edit(NOOR, id, { priority: "low" });
    const asks = async (value: string, viewer = TOMAS) => {
      const condition = {
        kind: "all",
        of: [
          { kind: "compare", fact: "priority", op: "is", value },
          { kind: "compare", fact: "title", op: "contains", value: "Buoy that was" },
        ],
      } as const;
      const rule = { ...RULE, happens: ["blocked" as const], condition: condition as never };
      return (await tryRule(viewer, rule)).count;
    };
    expect(await asks("urgent")).toBe(1);
    expect(await asks("low")).toBe(0);
    // Whoever did it would not have been told.
    expect(await asks("urgent", NOOR)).toBe(0);
  });

  test("tells nobody of items that they may not see", async () => {
    const id = await itemIn(INES, "Quite unheard-of matter");
    await edit(INES, id, { restricted: true });
    const rule = { ...RULE, projectKey: null, happens: ["made" as const] };
    const titles = async (viewer: Viewer) =>
      (await tryRule(viewer, rule)).latest.map(({ title }) => title);
    expect(await titles(GRETA)).toContain("Quite unheard-of matter");
    expect(await titles(OSKAR)).not.toContain("Quite unheard-of matter");
  });
});
