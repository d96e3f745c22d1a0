import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import path from "node:path";
import { and, eq, isNull } from "drizzle-orm";
import { simpleParser } from "mailparser";
import nodemailer from "nodemailer";
import { DAY, HOUR, MINUTE } from "@/core/calendar/instant";
import { PLAIN_LOOK, type Look } from "@/core/view/look";
import type { Sharing } from "@/core/view/view";
import { STANDARD_RULE_IDS } from "@/core/alerts/standard-rules";
import { database } from "@/db/connection";
import { alert, alertPart, domainEvent, item, mailIn, membership, person, view } from "@/db/schema";
import { actOnAlerts } from "@/server/alerts/act";
import { endFeed, makeFeed, readFeed } from "@/server/alerts/feed";
import { setFollow } from "@/server/alerts/follow";
import { setHours } from "@/server/alerts/hours";
import { tellRisks } from "@/server/alerts/promises-at-risk";
import { freshCount, readAlerts } from "@/server/alerts/read";
import { chooseAlerts, readAlertRules } from "@/server/alerts/rules";
import { sendDigests } from "@/server/alerts/send-digest";
import { sendAlertMails } from "@/server/alerts/send-mail";
import { tokenFor, idOfToken } from "@/server/alerts/signed-token";
import { setMailStopped, stopMailByToken } from "@/server/alerts/stop-mail";
import { admitMail } from "@/server/mail/keep";
import { closeMail } from "@/server/mail/mailer";
import { closeReadingThread } from "@/server/mail/reading-thread";
import { readMailbox } from "@/server/mail/addresses";
import { readWaitingMail } from "@/server/mail/take";
import { readItem } from "@/server/item/read";
import { endPerson } from "@/server/people/end-person";
import type { Viewer } from "@/server/people/viewer";
import { editViews } from "@/server/view/edit";
import { readViews } from "@/server/view/read";
import { openMailDoor, type MailDoor } from "@/worker/mail-door";
import { startMailStandIn, type MailStandIn } from "../../standins/mail/server";
import { itemIn, move, refusalOf, send } from "./setup/board";
import { settle } from "./setup/events";
import { GRETA, INES, IVO, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { toldTo } from "./setup/told";

givenTestDatabase();
let door: MailDoor;
let standIn: MailStandIn;
beforeAll(async () => {
  process.env.MAIL_DOMAIN = "in.saltmarsh.example";
  process.env.BETTER_AUTH_SECRET ??= "a secret of this test alone, long enough";
  door = await openMailDoor(null);
  standIn = await startMailStandIn({
    smtpPort: 0,
    webPort: 0,
    domain: "in.saltmarsh.example",
    doorPort: door.port,
  });
  Object.assign(process.env, {
    MAIL_HOST: "127.0.0.1",
    MAIL_PORT: String(standIn.smtpPort),
    MAIL_DOOR_PORT: String(door.port),
  });
  // The demo's own alerts are not of these tests.
  await database().delete(alert);
});
afterAll(async () => {
  await closeReadingThread();
  closeMail();
  await standIn.close();
  await door.close();
});

const say = (by: Viewer, id: string, body: string, more: object = {}) =>
  send(by, id, { kind: "comment", body, ...more });
const about = async (viewer: Viewer, id: string) => {
  await settle();
  const [{ key }] = await keyOf(id);
  return (await toldTo(viewer)).filter((one) => one.itemKey === key);
};
const keyOf = async (id: string) => {
  const [{ number }] = await database()
    .select({ number: item.number })
    .from(item)
    .where(eq(item.id, id));
  return [{ key: `TIX-${number}` }];
};
/** Gives an item to somebody. */
const give = async (by: Viewer, id: string, changes: object) => {
  const [row] = await database().select().from(item).where(eq(item.id, id));
  await send(by, id, { kind: "edit", seenVersion: row.version, changes });
};
const rowsFor = (personId: string, itemId: string) =>
  database()
    .select()
    .from(alert)
    .where(and(eq(alert.personId, personId), eq(alert.itemId, itemId)));
/** As if everything about an item had happened so long ago. */
const longAgo = (itemId: string, ms: number) =>
  database()
    .update(alert)
    .set({ firstAt: Date.now() - ms, lastAt: Date.now() - ms, mailDueAt: null })
    .where(and(eq(alert.itemId, itemId), isNull(alert.mailDueAt)));
const sendAll = async (now: number) => {
  let sent = 0;
  for (let n = 1; n > 0; sent += n) n = await sendAlertMails(now);
  return sent;
};
const inbox = (to: string) => standIn.mailbox.all().filter((m) => m.to === to);
const NOORS = "noor.bakri@saltmarsh.example";
/** A Tuesday at noon that is still to come: no quiet hours, a working day. */
const tuesdayNoon = () => {
  let at = Math.ceil(Date.now() / DAY) * DAY + 12 * HOUR;
  while (new Date(at).getUTCDay() !== 2) at += DAY;
  return at;
};

describe("who hears", () => {
  test("whoever is given an item, whoever is named and whoever is asked, each with why, once", async () => {
    const id = await itemIn(INES, "The horn of the ferry");
    await give(INES, id, { assigneeId: "noor" });
    await say(INES, id, "@Ivo Sandell which horn? @Noor Bakri wait for him.", { asks: true });
    const noor = await about(NOOR, id);
    expect(noor.flatMap(({ why }) => why)).toEqual(
      expect.arrayContaining(["names you", "asks you", "given or taken"]),
    );
    expect(noor.some(({ said }) => said?.includes("which horn?"))).toBe(true);
    const ivo = await about(IVO, id);
    expect(new Set(ivo.flatMap(({ why }) => why))).toEqual(new Set(["names you", "asks you"]));
    expect(await rowsFor("ivo", id)).toHaveLength(1);
    expect(await about(INES, id)).toEqual([]);
    expect(await about(TOMAS, id)).toEqual([]);
  });

  test("a comment that was changed since says what it says now, once", async () => {
    const id = await itemIn(INES, "The clapper of the bell");
    await say(INES, id, "@Noor Bakri it is lose.");
    const first = await about(NOOR, id);
    expect(first.map(({ said }) => said)).toEqual(["@Noor Bakri it is lose."]);
    const commentId = first[0].commentId!;
    await send(INES, id, { kind: "edit comment", commentId, body: "@Noor Bakri it is loose." });
    const after = await about(NOOR, id);
    expect(after.flatMap(({ said }) => said ?? [])).toEqual(["@Noor Bakri it is loose."]);
  });

  test("nobody of what their own move made the process do", async () => {
    const id = await itemIn(NOOR, "A bell that rings itself");
    await settle();
    await database().delete(alert).where(eq(alert.itemId, id));
    await give(NOOR, id, { assigneeId: "noor" });
    await move(NOOR, id, "Ready", {});
    expect(await about(NOOR, id)).toEqual([]);
    const told = await database()
      .select({ data: domainEvent.data })
      .from(domainEvent)
      .where(eq(domainEvent.itemId, id));
    expect(told.every(({ data }) => "byId" in data && data.byId === "noor")).toBe(true);
  });

  test("a reviewer when it comes to the review, testers when it is to be tested", async () => {
    const id = await itemIn(NOOR, "Lamp", "Ready", "Building", "Waiting for review");
    await give(NOOR, id, { reviewerId: "ivo" });
    expect((await about(IVO, id)).flatMap(({ why }) => why)).toContain("your review");
    for (const to of ["In review", "Waiting for test"]) await move(IVO, id, to);
    await settle();
    const testers = await database()
      .select({ personId: alert.personId })
      .from(alert)
      .innerJoin(alertPart, eq(alertPart.alertId, alert.id))
      .where(and(eq(alert.itemId, id), eq(alertPart.rules, ["test"])));
    expect(new Set(testers.map(({ personId }) => personId))).toEqual(new Set(["hanna", "lukas"]));
  });

  test("not those who may not see it, also not later, and not what they lost sight of", async () => {
    const id = await itemIn(INES, "What the harbour pays");
    await give(INES, id, { restricted: true });
    await say(INES, id, "@Noor Bakri look at this");
    expect(await about(NOOR, id)).toEqual([]);
    const open = await itemIn(INES, "What the harbour asks");
    await say(INES, open, "@Noor Bakri and this");
    expect(await about(NOOR, open)).toHaveLength(1);
    const before = await freshCount(NOOR);
    await database().update(item).set({ restricted: true }).where(eq(item.id, open));
    expect(await about(NOOR, open)).toEqual([]);
    expect(await freshCount(NOOR)).toBe(before - 1);
  });

  test("followers in their list alone; who stops following no more", async () => {
    const id = await itemIn(INES, "A rope");
    await setFollow(NOOR, { kind: "item", target: id, on: true });
    await move(INES, id, "Ready", {});
    await settle();
    const [row] = await rowsFor("noor", id);
    expect(row).toMatchObject({ mailDueAt: null, digest: null });
    await setFollow(NOOR, { kind: "item", target: id, on: false });
    await longAgo(id, HOUR);
    await say(INES, id, "Longer.");
    await settle();
    expect(await rowsFor("noor", id)).toHaveLength(1);
    // Whoever has stopped is not made to follow again by having to do with it.
    await say(INES, id, "@Noor Bakri one more");
    await longAgo(id, HOUR);
    await give(INES, id, { dueOn: "2027-01-05" });
    await settle();
    expect(await rowsFor("noor", id)).toHaveLength(2);
  });

  test("a parent that is followed with all below tells of what is below", async () => {
    const parent = await itemIn(INES, "A voyage of ropes");
    await setFollow(NOOR, { kind: "below", target: parent, on: true });
    const child = await itemIn(INES, "One rope");
    await database().update(item).set({ parentId: parent }).where(eq(item.id, child));
    await say(INES, child, "Here it is.");
    expect((await about(NOOR, child)).some(({ said }) => said === "Here it is.")).toBe(true);
  });
});

describe("who follows a view", () => {
  const soon: Look = {
    ...PLAIN_LOOK,
    filter: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
  };
  const kept = async (by: Viewer, sharing: Sharing): Promise<string> => {
    const id = randomUUID();
    await editViews(by, "TIX", { kind: "make", id, name: "What is urgent", sharing, look: soon });
    return id;
  };

  test("hears of what it shows, as it shows it then, and not of their own doing", async () => {
    const view = await kept(INES, "shown");
    await setFollow(NOOR, { kind: "view", target: view, on: true });
    const id = await itemIn(INES, "A hole in the hull");
    await say(INES, id, "Small.");
    expect(await about(NOOR, id)).toEqual([]);
    await give(INES, id, { priority: "urgent" });
    await say(INES, id, "It grows.");
    const told = await about(NOOR, id);
    expect(told.some(({ said }) => said === "It grows.")).toBe(true);
    expect(told[0].why).toEqual(["you follow it"]);
    await say(NOOR, id, "I see it.");
    expect((await about(NOOR, id)).some(({ said }) => said === "I see it.")).toBe(false);
    await setFollow(NOOR, { kind: "item", target: id, on: false });
    await longAgo(id, HOUR);
    await say(INES, id, "And grows.");
    expect((await about(NOOR, id)).some(({ said }) => said === "And grows.")).toBe(false);
  });

  test("hears nothing of one that is put away, taken from sight or not theirs to see", async () => {
    const own = await kept(INES, "mine");
    const follows = { kind: "view", target: own, on: true } as const;
    expect(await refusalOf(setFollow(NOOR, follows))).toBe("not found");
    expect(await refusalOf(setFollow(NOOR, { ...follows, target: "x" }))).toBe("not found");
    const shown = await kept(INES, "shown");
    await setFollow(IVO, { kind: "view", target: shown, on: true });
    expect((await readViews(IVO, "TIX")).views.find(({ id }) => id === shown)?.followed).toBe(true);
    expect((await readViews(NOOR, "TIX")).views.find(({ id }) => id === shown)?.followed).toBe(
      false,
    );
    const id = await itemIn(INES, "A hole in the deck");
    await give(INES, id, { priority: "urgent" });
    expect(await about(IVO, id)).not.toEqual([]);
    const [{ version }] = await database().select().from(view).where(eq(view.id, shown));
    const changes = { sharing: "mine" } as const;
    await editViews(INES, "TIX", { kind: "change", id: shown, version, changes });
    await longAgo(id, HOUR);
    await say(INES, id, "Who hears?");
    expect((await about(IVO, id)).some(({ said }) => said === "Who hears?")).toBe(false);
    await setFollow(INES, { kind: "view", target: shown, on: true });
    await editViews(INES, "TIX", { kind: "put away", id: shown });
    await say(NOOR, id, "Nobody by a view.");
    expect((await about(IVO, id)).some(({ said }) => said === "Nobody by a view.")).toBe(false);
  });
});

describe("alerts", () => {
  test("of five minutes are one, of later another, and undone steps are told no more", async () => {
    const id = await itemIn(NOOR, "A knot");
    await say(INES, id, "First.");
    await say(INES, id, "Second.");
    expect(await about(NOOR, id)).toHaveLength(2);
    expect(await rowsFor("noor", id)).toHaveLength(1);
    await longAgo(id, 6 * MINUTE);
    await say(INES, id, "Third.");
    await settle();
    expect(await rowsFor("noor", id)).toHaveLength(2);
    const commandId = randomUUID();
    const [row] = await database().select().from(item).where(eq(item.id, id));
    await send(
      INES,
      id,
      { kind: "edit", seenVersion: row.version, changes: { dueOn: "2027-02-01" } },
      commandId,
    );
    expect((await about(NOOR, id)).some(({ words }) => words.includes("due date"))).toBe(true);
    await send(INES, id, { kind: "undo", commandId });
    expect((await about(NOOR, id)).some(({ words }) => words.includes("due date"))).toBe(false);
  });

  test("are read, put off, done and brought back, by their own person alone", async () => {
    const id = await itemIn(NOOR, "A sail");
    await say(INES, id, "Torn.");
    await settle();
    const [{ id: alertId }] = await rowsFor("noor", id);
    const before = await freshCount(NOOR);
    await actOnAlerts(IVO, { kind: "read", ids: [alertId] });
    expect(await freshCount(NOOR)).toBe(before);
    await actOnAlerts(NOOR, { kind: "read", ids: [alertId] });
    expect(await freshCount(NOOR)).toBe(before - 1);
    const until = Date.now() + HOUR;
    await actOnAlerts(NOOR, { kind: "later", ids: [alertId], until });
    const shelf = async (name: "open" | "later" | "done", now?: number) =>
      (await readAlerts(NOOR, { shelf: name }, now)).groups
        .flatMap(({ alerts }) => alerts)
        .find((one) => one.id === alertId)?.standing;
    expect([await shelf("open"), await shelf("later")]).toEqual([undefined, "later"]);
    expect(await shelf("open", until + 1)).toBe("new");
    await actOnAlerts(NOOR, { kind: "done", ids: [alertId] });
    expect([await shelf("open"), await shelf("done")]).toEqual([undefined, "done"]);
    await actOnAlerts(NOOR, { kind: "bring back", ids: [alertId] });
    expect(await shelf("open")).toBe("read");
    expect(await refusalOf(actOnAlerts(NOOR, { kind: "later", ids: [alertId], until: 1 }))).toBe(
      "invalid",
    );
  });

  test("come in pages without one twice or left out", async () => {
    for (let i = 0; i < 45; i++) {
      const id = await itemIn(INES, `Buoy ${i}`);
      const row = { firstAt: i * MINUTE, lastAt: i * MINUTE };
      const alertId = randomUUID();
      await database()
        .insert(alert)
        .values({ id: alertId, personId: "oskar", itemId: id, ...row });
      await database()
        .insert(alertPart)
        .values({ alertId, id: randomUUID(), at: 0, rules: ["told"], said: "x" });
    }
    const first = await readAlerts(OSKAR, { shelf: "open" });
    const second = await readAlerts(OSKAR, { shelf: "open", after: first.next! });
    expect(second.next).toBeNull();
    const keys = [...first.groups, ...second.groups].map(({ itemKey }) => itemKey);
    expect(new Set(keys).size).toBe(45);
  });
});

test("whoever has an item hears once that its date is at risk, and again of another date", async () => {
  const id = await itemIn(NOOR, "Festival lights");
  const dayIn = (days: number) => new Date(Date.now() + days * DAY).toISOString().slice(0, 10);
  await give(NOOR, id, { assigneeId: "noor", dueOn: dayIn(2) });
  await settle();
  await tellRisks();
  expect(await tellRisks()).toBe(0);
  const risks = async () => (await about(NOOR, id)).filter(({ why }) => why.includes("a promise"));
  expect((await risks()).map(({ words }) => words)).toEqual([
    expect.stringMatching(/^Its date is at risk: due .*It is not begun, and 85 %/),
  ]);
  await give(NOOR, id, { dueOn: dayIn(300) });
  expect(await tellRisks()).toBe(0);
  await give(NOOR, id, { dueOn: dayIn(1) });
  expect(await tellRisks()).toBe(1);
});

describe("rules", () => {
  test("that are off tell nothing; one that is changed tells as it says", async () => {
    await chooseAlerts(TOMAS, { rule: "named", off: true, mail: "at once", feed: false });
    await chooseAlerts(TOMAS, { rule: "given", off: false, mail: "weekly", feed: false });
    const { rules } = await readAlertRules(TOMAS);
    expect(rules.map(({ id }) => id)).toEqual(STANDARD_RULE_IDS);
    expect(rules.filter(({ asBegun }) => !asBegun).map(({ id }) => id)).toEqual(["named", "given"]);
    const id = await itemIn(INES, "A chart");
    await say(INES, id, "@Tomas Kerr look");
    await settle();
    expect(await rowsFor("tomas", id)).toEqual([]);
    const other = await itemIn(INES, "Another chart");
    await give(INES, other, { assigneeId: "tomas" });
    await settle();
    expect((await rowsFor("tomas", other))[0]).toMatchObject({ digest: "weekly", mailDueAt: null });
    await setHours(TOMAS, { ...(await readAlertRules(TOMAS)).hours, quiet: null });
    expect((await readAlertRules(TOMAS)).hours.quiet).toBeNull();
  });
});

describe("mail at once", () => {
  test("waits until the item is quiet, says what happened then, in one thread, with ways to stop", async () => {
    const id = await itemIn(INES, "The compass");
    await say(INES, id, "@Noor Bakri <b>north</b>?", { asks: true });
    await settle();
    const [row] = await rowsFor("noor", id);
    const noon = tuesdayNoon();
    expect(row.mailDueAt).toBe(row.lastAt + 5 * MINUTE);
    expect(await sendAll(row.lastAt + 4 * MINUTE)).toBe(0);
    const sent = inbox(NOORS).length;
    expect(await sendAll(noon)).toBeGreaterThan(0);
    expect(await sendAll(noon)).toBe(0);
    const [letter] = inbox(NOORS)
      .slice(sent)
      .filter((m) => m.subject.includes("The compass"));
    const mail = await simpleParser(letter.raw);
    expect(mail.text).toContain("north");
    expect(mail.html).not.toContain("<b>north");
    expect(mail.messageId).toBe(`<alert-${row.id}@in.saltmarsh.example>`);
    expect(mail.references).toBe(`<item-${id}@in.saltmarsh.example>`);
    const headers = new Map(mail.headerLines.map(({ key, line }) => [key, line]));
    expect(headers.get("list-unsubscribe-post")).toMatch(/List-Unsubscribe=One-Click$/);
    expect(headers.get("list-unsubscribe")).toContain(tokenFor("stop mail about an item", row.id));
    expect(headers.get("auto-submitted")).toMatch(/auto-generated/);
  });

  test("goes in quiet hours only where it is urgent", async () => {
    const night = tuesdayNoon() + 11 * HOUR;
    const id = await itemIn(NOOR, "Night watch", "Ready", "Building", "Waiting for review");
    await give(NOOR, id, { reviewerId: "ivo" });
    await say(INES, id, "@Noor Bakri wake up");
    await settle();
    const sentTo = async (who: string) =>
      (await rowsFor(who, id)).filter(({ mailedAt }) => mailedAt !== null).length;
    await sendAll(night);
    expect([await sentTo("noor"), await sentTo("ivo")]).toEqual([1, 0]);
    const [waiting] = await rowsFor("ivo", id);
    expect(new Date(waiting.mailDueAt!).getUTCHours()).toBe(7);
    await sendAll(waiting.mailDueAt!);
    expect(await sentTo("ivo")).toBe(1);
  });

  test("is not sent to whoever read it, lost sight of it, stopped it or left", async () => {
    const noon = tuesdayNoon();
    const named = async (title: string, who = "Noor Bakri") => {
      const id = await itemIn(INES, title);
      await say(INES, id, `@${who} look`);
      await settle();
      return id;
    };
    const [read, hidden, stopped, undone] = [
      await named("Read"),
      await named("Hidden"),
      await named("Stopped"),
      await named("Taken back"),
    ];
    await actOnAlerts(NOOR, { kind: "read", ids: [(await rowsFor("noor", read))[0].id] });
    await database().update(item).set({ restricted: true }).where(eq(item.id, hidden));
    const stop = tokenFor("stop mail about an item", (await rowsFor("noor", stopped))[0].id);
    await stopMailByToken(stop);
    const { talk } = await readItem(INES, (await keyOf(undone))[0].key);
    await send(INES, undone, {
      kind: "take back comment",
      commentId: talk.comments[0].id,
      why: "",
    });
    await settle();
    const left = await named("Left", "Petra Lind");
    await database()
      .insert(membership)
      .values({ projectId: "tix", personId: "petra", role: "member" })
      .onConflictDoNothing();
    await say(INES, left, "@Petra Lind now");
    await settle();
    await endPerson(GRETA, "petra", { ended: true, handOn: [] });
    const before = standIn.mailbox.all().length;
    await sendAll(noon);
    const about = standIn.mailbox
      .all()
      .slice(0, -before || undefined)
      .filter(({ subject }) => /\] (Read|Hidden|Stopped|Taken back|Left)$/.test(subject));
    expect(about).toEqual([]);
    const why = async (who: string, id: string) => (await rowsFor(who, id))[0].unsent;
    expect(await why("noor", read)).toMatch(/read/);
    expect(await why("noor", hidden)).toMatch(/nothing/);
    expect(await why("noor", stopped)).toMatch(/stopped/);
    expect(await why("petra", left)).toMatch(/ended/);
    expect((await readAlertRules(NOOR)).stopped.map(({ title }) => title)).toEqual(["Stopped"]);
    await setMailStopped(NOOR, { itemId: stopped, on: false });
    expect((await readAlertRules(NOOR)).stopped).toEqual([]);
    expect(await refusalOf(stopMailByToken("a".repeat(42)))).toBe("not found");
  });
});

describe("an answer to the mail of an alert", () => {
  const handOver = async (raw: string, from: string, to: string) => {
    const client = nodemailer.createTransport({
      host: "127.0.0.1",
      port: door.port,
      ignoreTLS: true,
    });
    try {
      await client.sendMail({
        envelope: { from, to: [to] },
        raw: raw.replace(/^\n/, "").replaceAll("\n", "\r\n"),
      });
      while ((await readWaitingMail()) !== null);
      return 250;
    } catch (error) {
      return (error as { responseCode: number }).responseCode;
    } finally {
      client.close();
    }
  };
  const answerTo = async (id: string, who = "noor") =>
    `answer+${tokenFor("answer an alert", (await rowsFor(who, id))[0].id)}@in.saltmarsh.example`;
  const mailOf = (from: string, body: string) => `
From: <${from}>
To: answer@in.saltmarsh.example
Message-ID: <${randomUUID()}@mail.example>
Subject: Re: something

${body}
`;
  const asked = async (title: string) => {
    const id = await itemIn(INES, title);
    await say(INES, id, "@Noor Bakri how long?", { asks: true });
    await settle();
    return id;
  };
  const said = async (id: string) =>
    (await readItem(INES, (await keyOf(id))[0].key)).talk.comments.map(({ author, body }) => ({
      author,
      body,
    }));
  const held = async () =>
    (await database().select().from(mailIn).where(eq(mailIn.became, "held"))).map((m) => m.why);

  test("is that person's comment, without what they answered to, and names people", async () => {
    const id = await asked("Anchor chain");
    const to = await answerTo(id);
    const body = "Two days, @Ines Dahl.\n\n> how long?\n";
    expect(await handOver(mailOf(NOORS, body), NOORS, to)).toBe(250);
    expect((await said(id)).at(-1)).toEqual({
      author: "Noor Bakri",
      body: "Two days, @Ines Dahl.",
    });
    expect((await about(INES, id)).flatMap(({ why }) => why)).toContain("names you");
    // Its address is known by its signature alone.
    expect(await admitMail(to, null)).toBe("welcome");
    expect(await admitMail(to.replace(/\+./, "+x"), null)).toBe("unknown");
    expect(idOfToken("stop mail about an item", to.slice(7, 49))).toBeNull();
  });

  test("of anybody else, of one who left or too late waits in the mailbox with the reason", async () => {
    const id = await asked("Anchor winch");
    const to = await answerTo(id);
    const other = "somebody@elsewhere.example";
    await handOver(mailOf(other, "Let me in."), other, to);
    expect(await held()).toEqual([expect.stringContaining("another address")]);
    await database()
      .update(alert)
      .set({ firstAt: Date.now() - 91 * DAY, lastAt: Date.now() - 91 * DAY })
      .where(eq(alert.itemId, id));
    await handOver(mailOf(NOORS, "Late."), NOORS, to);
    expect((await held()).at(-1)).toMatch(/90 days/);
    const hidden = await asked("Anchor locker");
    const there = await answerTo(hidden);
    await database().update(item).set({ restricted: true }).where(eq(item.id, hidden));
    await handOver(mailOf(NOORS, "Still there?"), NOORS, there);
    expect((await held()).at(-1)).toMatch(/may not see/);
    const ended = await asked("Anchor buoy");
    const last = await answerTo(ended);
    await database().update(person).set({ endedAt: 1 }).where(eq(person.id, "noor"));
    await handOver(mailOf(NOORS, "From outside."), NOORS, last);
    await database().update(person).set({ endedAt: null }).where(eq(person.id, "noor"));
    expect((await held()).at(-1)).toMatch(/account/);
    for (const one of [id, hidden, ended]) expect(await said(one)).toHaveLength(1);
    const { received } = await readMailbox(INES, "TIX");
    expect(received.filter(({ became }) => became === "held")).toHaveLength(4);
    expect(received.find(({ words }) => words === "Let me in.")?.itemKey).toBe(
      (await keyOf(id))[0].key,
    );
    // What is about an item that they may not see stands in nobody's mailbox.
    const seen = (await readMailbox(IVO, "TIX")).received.filter(({ became }) => became === "held");
    expect(seen).toHaveLength(3);
  });

  test("that a machine wrote is nothing, so that two machines do not talk for ever", async () => {
    const id = await asked("Anchor light");
    const auto = mailOf(NOORS, "I am away.").replace(
      "Subject:",
      "Auto-Submitted: auto-replied\nSubject:",
    );
    await handOver(auto, NOORS, await answerTo(id));
    expect(await said(id)).toHaveLength(1);
  });
});

describe("digests", () => {
  test("gather by item what came before their hour, once; what was read is left out", async () => {
    await database().delete(alert);
    const [one, two] = [await itemIn(NOOR, "Deck plank"), await itemIn(NOOR, "Deck nail")];
    for (const id of [one, two]) await say(INES, id, "Look.");
    await settle();
    const [kept, seen] = [(await rowsFor("noor", one))[0], (await rowsFor("noor", two))[0]];
    expect(kept).toMatchObject({ digest: "morning", mailDueAt: null });
    await actOnAlerts(NOOR, { kind: "read", ids: [seen.id] });
    const before = inbox(NOORS).length;
    const noon = tuesdayNoon();
    expect(await sendDigests(noon)).toBeGreaterThan(0);
    expect(await sendDigests(noon)).toBe(0);
    const [letter, ...others] = inbox(NOORS).slice(0, -before || undefined);
    expect(others).toEqual([]);
    expect(letter.subject).toBe("Since yesterday: 1 item");
    const { text } = await simpleParser(letter.raw);
    expect(text).toContain("Deck plank");
    expect(text).not.toContain("Deck nail");
  });
});

describe("a private feed", () => {
  test("is read by its address, as far as its person may see, until it is ended", async () => {
    const id = await itemIn(INES, "Flag & <pole>");
    await say(INES, id, "@Noor Bakri hoist it");
    await settle();
    const { address } = await makeFeed(NOOR);
    const token = address.split("/").at(-1)!;
    const feed = await readFeed(token);
    expect(feed).toContain("<![CDATA[TIX-");
    // Once as HTML, in which the title is text.
    expect(feed).toContain("Flag &amp; &lt;pole&gt;]]>");
    expect(feed).toContain("hoist it");
    // RFC 4287, appendix B.
    const schema = path.join(process.cwd(), "tests/reference/atom/atom.rng");
    const checked = spawnSync("xmllint", ["--noout", "--relaxng", schema, "-"], { input: feed });
    expect(checked.stderr.toString()).toMatch(/validates\s*$/);
    const broken = feed.replace(/<updated>[^<]*<\/updated>/, "<updated>yesterday</updated>");
    const refused = spawnSync("xmllint", ["--noout", "--relaxng", schema, "-"], { input: broken });
    expect(refused.status).not.toBe(0);
    await database().update(item).set({ restricted: true }).where(eq(item.id, id));
    expect(await readFeed(token)).not.toContain("Flag");
    await makeFeed(NOOR);
    expect(await refusalOf(readFeed(token))).toBe("not found");
    const again = (await makeFeed(NOOR)).address.split("/").at(-1)!;
    await endFeed(NOOR);
    expect(await refusalOf(readFeed(again))).toBe("not found");
  });
});
