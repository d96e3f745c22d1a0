import { randomUUID } from "node:crypto";
import { desc, eq, ilike } from "drizzle-orm";
import nodemailer from "nodemailer";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import {
  mailAddress,
  mailIn,
  mailOut,
  mailWaiting,
  report,
  reportFile,
  reportMessage,
} from "@/db/schema";
import { readReport } from "@/server/intake/read-report";
import { followQuestions } from "@/server/intake/follow-up";
import { submitForm } from "@/server/intake/forms";
import { undoVerdict } from "@/server/intake/triage-report";
import { followReport, readPrivatePage } from "@/server/intake/private-page";
import { readItem } from "@/server/item/read";
import { editAddress, readMailbox } from "@/server/mail/addresses";
import { admitMail } from "@/server/mail/keep";
import { closeMail } from "@/server/mail/mailer";
import { sendLetters } from "@/server/mail/send";
import { closeReadingThread, readMailAside } from "@/server/mail/reading-thread";
import { readKept } from "@/server/files/store";
import { readWaitingMail } from "@/server/mail/take";
import { GRACE_MS, HELD_BACK } from "@/server/mail/write";
import { settle } from "./setup/events";
import { openMailDoor, type MailDoor } from "@/worker/mail-door";
import { startMailStandIn, type MailStandIn } from "../../standins/mail/server";
import { move, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR, TOMAS } from "./setup/people";
import { accepting, FORM, reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const ANNA = "anna@post.saltmarsh.example";
const TICKETS = "tickets@in.saltmarsh.example";
let door: MailDoor;
let standIn: MailStandIn;

beforeAll(async () => {
  process.env.MAIL_DOMAIN = "in.saltmarsh.example";
  door = await openMailDoor(null);
  standIn = await startMailStandIn({
    smtpPort: 0,
    webPort: 0,
    domain: "in.saltmarsh.example",
    doorPort: door.port,
  });
  Object.assign(process.env, { MAIL_HOST: "127.0.0.1", MAIL_PORT: String(standIn.smtpPort) });
});
afterAll(async () => {
  await closeReadingThread();
  closeMail();
  await standIn.close();
  await door.close();
});

/** What the worker does with mail that was handed over. */
const readAll = async () => {
  while ((await readWaitingMail()) !== null);
};

const sendAll = async (now?: number) => {
  while ((await sendLetters(now)) > 0);
};

/** What somebody types into the stand-in's page and sends. */
async function write(fields: Record<string, string>, file?: File): Promise<number> {
  const form = new FormData();
  for (const [name, value] of Object.entries({ from: ANNA, to: TICKETS, ...fields }))
    form.set(name, value);
  if (file) form.set("file", file);
  const { status } = await fetch(`http://127.0.0.1:${standIn.webPort}/write`, {
    method: "POST",
    body: form,
    redirect: "manual",
  });
  await readAll();
  return status;
}

/** By SMTP straight to the door, as a mail server hands mail over. */
async function handOver(
  raw: string,
  { from = ANNA, to = [TICKETS] }: { from?: string; to?: string[] } = {},
): Promise<number> {
  const client = nodemailer.createTransport({
    host: "127.0.0.1",
    port: door.port,
    ignoreTLS: true,
  });
  try {
    await client.sendMail({
      envelope: { from, to },
      raw: raw.replace(/^\n/, "").replaceAll("\n", "\r\n"),
    });
    await readAll();
    return 250;
  } catch (error) {
    return (error as { responseCode: number }).responseCode;
  } finally {
    client.close();
  }
}

const latest = async (mail = ANNA) =>
  (
    await database()
      .select()
      .from(report)
      .where(eq(report.mail, mail))
      .orderBy(desc(report.receivedAt))
      .limit(1)
  )[0];
const inbox = (to = ANNA) => standIn.mailbox.all().filter((m) => m.to === to);
const reportsBefore = async () => (await database().select().from(report)).length;
const drain = async () => {
  await settle();
};

test("mail in, receipt, question, answer by headers, acceptance, question about the work, answer on the item, and word when it is done", async () => {
  expect(
    await write(
      { subject: "Gate 4 hums", text: "All night.\n-- \nAnna" },
      new File(["22:00 hum"], "times.txt"),
    ),
  ).toBe(303);
  const row = await latest();
  expect(row).toMatchObject({
    title: "Gate 4 hums",
    happened: "All night.",
    way: "mail",
    projectId: "tix",
    status: "unjudged",
  });
  expect(
    await database()
      .select({ name: reportFile.name, mediaType: reportFile.mediaType })
      .from(reportFile)
      .where(eq(reportFile.reportId, row.id)),
  ).toEqual([{ name: "times.txt", mediaType: "text/plain" }]);

  await sendAll();
  const [receipt] = inbox();
  expect(receipt.subject).toContain(row.reference);
  expect(receipt.text).toContain(`/r/${row.token}`);
  expect(receipt.from).toContain(TICKETS);

  await verdictOn(row.id, { kind: "ask", question: "Which night was it?" });
  await sendAll();
  expect(inbox()).toHaveLength(1); // held back for a minute, so that undoing takes it back
  await sendAll(Date.now() + GRACE_MS);
  const [question] = inbox();
  expect(question).toMatchObject({
    text: expect.stringContaining("Which night was it?"),
    references: [receipt.messageId],
  });

  // Another subject on purpose: only the headers say what it answers.
  expect(
    await write({
      answers: String(question.id),
      subject: "holiday pictures",
      text: `Saturday night.\n\nOn some day, Tickets wrote:\n> Which night was it?`,
    }),
  ).toBe(303);
  expect((await readReport(TOMAS, row.id)).messages.map((m) => [m.kind, m.body])).toEqual([
    ["question", "Which night was it?"],
    ["answer", "Saturday night."],
  ]);
  expect(await reportRow(row.id)).toMatchObject({
    status: "unjudged",
    returnedAt: expect.any(Number),
  });

  const { itemKey, itemId } = await verdictOn(
    row.id,
    accepting({ severity: "minor", teamId: "quayside" }),
  );
  await send(NOOR, itemId!, { kind: "ask", body: "Does it hum by day too?" });
  await sendAll(Date.now() + GRACE_MS);
  const asked = inbox().find((m) => m.text.includes("Does it hum by day too?"))!;
  await write({ answers: String(asked.id), subject: "Re", text: "Only at night." });
  expect((await readItem(NOOR, itemKey!)).talk.comments.map((c) => c.body)).toContainEqual(
    expect.stringContaining("Only at night."),
  );

  await followReport(row.token, "neighbour@post.saltmarsh.example");
  await move(NOOR, itemId!, "Ready");
  await move(NOOR, itemId!, "Building");
  await drain();
  const before = inbox().length;
  await sendAll(Date.now() + GRACE_MS);
  expect(inbox()).toHaveLength(before); // steps stand on the page, they are no mail
  await move(NOOR, itemId!, "Closed", { outcome: "declined" });
  await drain();
  await sendAll(Date.now() + GRACE_MS);
  expect(inbox()[0].text).toMatch(/^Hello,\s+Closed\./);
  const [done, welcome] = inbox("neighbour@post.saltmarsh.example");
  expect(done.text).toMatch(/^Hello,\s+Closed\./);
  expect(welcome.subject).toContain("You follow");
  // Nobody's name, nothing internal, and each reads a page of their own.
  for (const mail of standIn.mailbox.all())
    expect(`${mail.from} ${mail.text}`).not.toMatch(/tomas|noor|TIX-\d/i);
  expect(done.text).not.toContain(row.token);
});

test("an answer without its headers joins the report that it names, if the same person sent that", async () => {
  const sender = "olga@post.saltmarsh.example";
  await write({ from: sender, subject: "Ramp hums", text: "Every morning." });
  const first = await latest(sender);
  const before = await reportsBefore();
  await write({
    from: sender,
    subject: `Re: ${first.reference.toLowerCase()}`,
    text: "And at noon.",
  });
  expect(await reportsBefore()).toBe(before);
  const said = await database()
    .select()
    .from(reportMessage)
    .where(eq(reportMessage.reportId, first.id));
  expect(said.map((m) => [m.kind, m.body])).toContainEqual(["answer", "And at noon."]);
  // Somebody else who knows the reference, and one who names none of theirs, tell of their own.
  const other = "piet@post.saltmarsh.example";
  await write({ from: other, subject: `Re: ${first.reference}`, text: "With me too." });
  expect(await reportsBefore()).toBe(before + 1);
  expect((await latest(other)).happened).toBe("With me too.");
  await write({ from: sender, subject: "Re: R-ZZZZZZ", text: "Something else." });
  expect(await reportsBefore()).toBe(before + 2);
});

test("an item that is finished by mistake and taken up again at once writes to nobody", async () => {
  const row = await sent({ mail: ["mistake@post.saltmarsh.example"] });
  const { itemId } = await verdictOn(row.id, accepting());
  await sendAll(Date.now() + GRACE_MS);
  const before = inbox("mistake@post.saltmarsh.example").length;
  const commandId = randomUUID();
  await send(
    NOOR,
    itemId!,
    {
      kind: "move",
      from: await stateId("Backlog"),
      to: await stateId("Closed"),
      answers: { outcome: "declined" },
    },
    commandId,
  );
  await drain();
  await send(NOOR, itemId!, { kind: "undo", commandId });
  await drain();
  await sendAll(Date.now() + 2 * GRACE_MS);
  expect(inbox("mistake@post.saltmarsh.example")).toHaveLength(before);
});

test("undone in time, a verdict's letter is never sent; undone later, it is put right", async () => {
  const one = await sent({ mail: ["early@post.saltmarsh.example"] });
  const two = await sent({ mail: ["late@post.saltmarsh.example"] });
  const decline = { kind: "decline", reason: "It belongs to the town." } as const;
  await undoVerdict(TOMAS, one.id, (await verdictOn(one.id, decline)).verdictId);
  const { verdictId } = await verdictOn(two.id, decline);
  await sendAll(Date.now() + GRACE_MS);
  expect(inbox("early@post.saltmarsh.example").map((m) => m.subject.split(":")[0])).toEqual([
    "Received",
  ]);
  expect(inbox("late@post.saltmarsh.example")[0].text).toContain("It belongs to the town.");
  await undoVerdict(TOMAS, two.id, verdictId);
  await sendAll(Date.now() + GRACE_MS);
  expect(inbox("late@post.saltmarsh.example")[0].text).toContain("does not hold");
});

describe("what is no report", () => {
  test.each<[string, string, string, string]>([
    [
      "an automatic answer",
      ANNA,
      "From: anna@post.saltmarsh.example\nMessage-ID: <auto@x>\nAuto-Submitted: auto-replied\nSubject: I am away",
      "automatic",
    ],
    [
      "a mail of our own that came back",
      ANNA,
      "From: tickets@in.saltmarsh.example\nMessage-ID: <loop@x>\nX-Zigzag-Lane: 1\nSubject: Received",
      "loop",
    ],
    [
      "a bounce",
      "",
      "From: MAILER-DAEMON@x.example\nMessage-ID: <bounce@x>\nSubject: Undelivered",
      "bounce",
    ],
  ])("%s is noted, makes no report and is not answered", async (_name, from, head, became) => {
    const [reports, letters] = [
      await reportsBefore(),
      (await database().select().from(mailOut)).length,
    ];
    expect(await handOver(`${head}\n\nwords\n`, { from })).toBe(250);
    expect(await reportsBefore()).toBe(reports);
    expect(await database().select().from(mailOut)).toHaveLength(letters);
    expect((await readMailbox(TOMAS, "TIX")).received[0]).toMatchObject({ became });
  });

  test("a bounce of a letter of ours marks that letter, by the id in the report", async () => {
    const row = await sent({ mail: ["gone@post.saltmarsh.example"] });
    await sendAll();
    const [letter] = await database().select().from(mailOut).where(eq(mailOut.reportId, row.id));
    await handOver(
      `
From: MAILER-DAEMON@x.example
Message-ID: <dsn-${letter.id}@x.example>
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary=b

--b
Content-Type: text/plain

It could not be delivered.
--b
Content-Type: message/delivery-status

Reporting-MTA: dns; x.example

Final-Recipient: rfc822; gone@post.saltmarsh.example
Action: failed
Status: 5.1.1
--b
Content-Type: text/rfc822-headers

Message-ID: ${letter.messageId}
--b--
`,
      { from: "" },
    );
    expect(
      (await database().select().from(mailOut).where(eq(mailOut.id, letter.id)))[0].failed,
    ).toBe("came back undelivered");
    expect(
      (await database().select().from(mailIn).where(eq(mailIn.reportId, row.id)))[0].became,
    ).toBe("bounce");
  });
});

describe("at the door", () => {
  const words = (id: string, more = "") =>
    `From: ${ANNA}\nMessage-ID: <${id}@x.example>\nSubject: Twice the same\n${more}\nwords\n`;

  test("an address that is not there, or closed, or of another domain, is refused before anything is sent", async () => {
    await editAddress(INES, "TIX", { kind: "add", name: "closed", teamId: null });
    await editAddress(INES, "TIX", { kind: "change", name: "closed", open: false });
    const before = await reportsBefore();
    for (const to of [
      "nobody@in.saltmarsh.example",
      "closed@in.saltmarsh.example",
      "tickets@elsewhere.example",
    ])
      expect(await handOver(words("a"), { to: [to] })).toBe(550);
    expect(await handOver(words("a"), { to: ["tickets"] })).toBe(501);
    expect(await reportsBefore()).toBe(before);
  });

  test("the same mail twice is taken once; to two projects it is taken by both; a mark behind a plus does not matter", async () => {
    const before = await reportsBefore();
    expect(await handOver(words("same"))).toBe(250);
    expect(await handOver(words("same"), { to: ["tickets+again@in.saltmarsh.example"] })).toBe(250);
    expect(await reportsBefore()).toBe(before + 1);
    expect(await handOver(words("both"), { to: [TICKETS, "quays@in.saltmarsh.example"] })).toBe(
      250,
    );
    expect(await reportsBefore()).toBe(before + 3);
  });

  test("one that is too large is refused for good and leaves nothing", async () => {
    const before = await reportsBefore();
    expect(await handOver(`${words("large")}${"x".repeat(13 * 1024 * 1024)}`)).toBe(552);
    expect(await reportsBefore()).toBe(before);
  });

  test("one that nothing can read stands at the desk as it came, and nobody is written to", async () => {
    const nested = Array.from(
      { length: 2_000 },
      (_, i) => `Content-Type: multipart/mixed; boundary=b${i}\n\n--b${i}`,
    ).join("\n");
    const letters = (await database().select().from(mailOut)).length;
    expect(
      await handOver(
        `From: Nils <nils@post.saltmarsh.example>\nSubject: Gate 9\nMessage-ID: <nested@x.example>\nMIME-Version: 1.0\n${nested}\n`,
      ),
    ).toBe(250);
    const row = await latest("nils@post.saltmarsh.example");
    expect(row).toMatchObject({
      title: "Gate 9",
      happened: expect.stringContaining("could not be read"),
      way: "mail",
    });
    const [file] = await database()
      .select()
      .from(reportFile)
      .where(eq(reportFile.reportId, row.id));
    expect(file).toMatchObject({ name: "the mail as it came.eml", mediaType: "message/rfc822" });
    expect((await readKept(database(), file.sha256))!.toString()).toContain("boundary=b1999");
    expect((await readMailbox(TOMAS, "TIX")).received[0]).toMatchObject({
      became: "unreadable",
      reportId: row.id,
    });
    expect(await database().select().from(mailOut)).toHaveLength(letters);
  });

  test("one that takes too long is given up, and the next one is read", async () => {
    // A thread that has to start first is never as quick as no patience at all.
    await closeReadingThread();
    await expect(readMailAside(Buffer.from(words("slow")), ANNA, 0)).rejects.toMatchObject({
      refusal: { code: "invalid" },
    });
    expect(await readMailAside(Buffer.from(words("quick")), ANNA)).toMatchObject({
      messageId: "<quick@x.example>",
    });
  });

  test("one that ended the worker three times is not read a fourth time, and not lost", async () => {
    const [address] = await database()
      .select()
      .from(mailAddress)
      .where(eq(mailAddress.projectId, "tix"));
    await database()
      .insert(mailWaiting)
      .values({
        id: randomUUID(),
        projectId: "tix",
        teamId: address.teamId,
        returnPath: ANNA,
        raw: Buffer.from("From: ends@post.saltmarsh.example\nSubject: Poison\n\nwords"),
        at: 0,
        dueAt: 0,
        tries: 3,
      });
    await readAll();
    expect(await latest("ends@post.saltmarsh.example")).toMatchObject({
      title: "Poison",
      happened: expect.stringContaining("was tried 3 times"),
    });
    expect(await database().select().from(mailWaiting)).toEqual([]);
  });

  test("a flood from one machine is told to come back later, whoever it says that it is; others still get through", async () => {
    const admissions: string[] = [];
    for (let i = 0; i < 65; i++) admissions.push(await admitMail(TICKETS, "203.0.113.9"));
    expect(admissions.filter((a) => a === "welcome")).toHaveLength(60);
    expect(admissions.slice(60)).toEqual(Array(5).fill("too many"));
    expect(await admitMail(TICKETS, "203.0.113.10")).toBe("welcome");
    expect(await handOver(words("honest"), { from: "honest@post.saltmarsh.example" })).toBe(250);
  });

  test("nobody's address is filled by giving it often: by forms, by mails with its Reply-To, by following", async () => {
    const victim = "victim@post.saltmarsh.example";
    const toVictim = () =>
      database().select().from(mailOut).where(ilike(mailOut.recipient, "victim%"));
    await handOver(
      `From: ${ANNA}\nReply-To: ${victim}\nMessage-ID: <reply-to@x.example>\nSubject: x\n\nwords\n`,
    );
    expect(await latest(victim)).toMatchObject({ way: "mail" });
    expect(await toVictim()).toEqual([]);
    const reports = await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        sent({ mail: [i % 2 ? victim : "Victim+more@post.saltmarsh.example"] }),
      ),
    );
    await followReport((await sent({ mail: ["somebody@post.saltmarsh.example"] })).token, victim);
    const letters = await toVictim();
    expect(letters).toHaveLength(13);
    expect(letters.filter((l) => l.failed === null)).toHaveLength(3);
    expect(letters.filter((l) => l.failed === HELD_BACK)).toHaveLength(10);
    // What the team asks is still written.
    await verdictOn(reports[0].id, { kind: "ask", question: "Which gate?" });
    expect((await toVictim()).filter((l) => l.failed === null)).toHaveLength(4);
  });

  test("somebody who only follows a report and answers tells of their own: the requester does not read it", async () => {
    const row = await sent({ mail: ["first@post.saltmarsh.example"] });
    await followReport(row.token, "second@post.saltmarsh.example");
    await sendAll();
    const [welcome] = inbox("second@post.saltmarsh.example");
    await write({
      from: "second@post.saltmarsh.example",
      answers: String(welcome.id),
      subject: "Re",
      text: "My telephone number is 7.",
    });
    expect((await readPrivatePage(row.token)).messages).toEqual([]);
    expect(await latest("second@post.saltmarsh.example")).toMatchObject({
      happened: "My telephone number is 7.",
      way: "mail",
    });
  });
});

test("a question without answer: asked once more, ended by rule in its words, opened again by an answer", async () => {
  const row = await sent({ mail: ["silent@post.saltmarsh.example"] });
  await verdictOn(row.id, { kind: "ask", question: "Which boat?" });
  const mine = async () =>
    (
      await database()
        .select({ kind: mailOut.subject })
        .from(mailOut)
        .where(eq(mailOut.reportId, row.id))
        .orderBy(mailOut.id)
    ).map((m) => m.kind.split(":")[0]);
  const later = (days: number) => Date.now() + days * DAY;
  await followQuestions(later(3));
  expect(await mine()).toEqual(["Received", "A question about"]);
  await followQuestions(later(5));
  await followQuestions(later(6));
  expect(await mine()).toEqual(["Received", "A question about", "Still a question about"]);
  await followQuestions(later(15));
  expect(await mine()).toEqual([
    "Received",
    "A question about",
    "Still a question about",
    "News about",
  ]);
  const page = await readPrivatePage(row.token);
  expect(page).toMatchObject({
    status: {
      headline: "Ended without your answer",
      detail: expect.stringContaining("We have not heard from you"),
    },
    awaitsAnswer: true,
  });
  expect((await readReport(TOMAS, row.id)).verdicts[0]).toMatchObject({
    by: null,
    kind: "decline",
  });
  await sendAll(later(15));
  const [news] = inbox("silent@post.saltmarsh.example");
  await write({
    from: "silent@post.saltmarsh.example",
    answers: String(news.id),
    subject: "Re",
    text: "The Curlew.",
  });
  expect(await reportRow(row.id)).toMatchObject({ status: "unjudged" });
});

test("a server that is away: letters wait, are tried again, and are given up in the end with the reason in view", async () => {
  const { token } = await submitForm({
    projectKey: "TIX",
    name: "report",
    raw: { ...FORM, mail: ["later@post.saltmarsh.example"] },
    sent: [],
  });
  const [{ id }] = await database()
    .select({ id: report.id })
    .from(report)
    .where(eq(report.token, token));
  const letter = async () =>
    (await database().select().from(mailOut).where(eq(mailOut.reportId, id)))[0];
  const port = process.env.MAIL_PORT;
  process.env.MAIL_PORT = "9";
  let now = Date.now();
  await sendAll(now);
  expect(await letter()).toMatchObject({ sentAt: null, failed: null, tries: 1 });
  await sendAll(now + 1_000);
  expect((await letter()).tries).toBe(1);
  for (let i = 0; i < 10; i++) await sendAll((now = (await letter()).dueAt));
  expect(await letter()).toMatchObject({
    sentAt: null,
    failed: expect.stringMatching(/ECONNREFUSED/),
    tries: 8,
  });
  expect(
    (await readMailbox(TOMAS, "TIX")).written.find(
      (w) => w.id === now || w.recipient === "later@post.saltmarsh.example",
    )?.failed,
  ).toMatch(/ECONNREFUSED/);
  process.env.MAIL_PORT = port;
});

test("the mailbox is for the team: an observer does not read it, a member changes no address, and no page of a requester is given away", async () => {
  expect(await refusalOf(readMailbox(ARTHUR, "TIX"))).toBe("not allowed");
  expect(
    await refusalOf(editAddress(NOOR, "TIX", { kind: "add", name: "mine", teamId: null })),
  ).toBe("not allowed");
  expect(
    await refusalOf(editAddress(INES, "TIX", { kind: "add", name: "quays", teamId: null })),
  ).toBe("invalid");
  const { written } = await readMailbox(NOOR, "TIX");
  expect(written.length).toBeGreaterThan(0);
  for (const { body } of written) expect(body).not.toMatch(/\/r\/[A-Za-z0-9_-]{32}/);
});
