import { and, eq, isNull, ne, or } from "drizzle-orm";
import { DAY, HOUR } from "@/core/calendar/instant";
import { inviteBody, type InviteRequest } from "@/core/people/invitation";
import { database } from "@/db/connection";
import { accountLetter, invitation, item, membership, passwordLink, person } from "@/db/schema";
import { closeMail } from "@/server/mail/mailer";
import { editAccounts, readWelcome, setPasswordByLink } from "@/server/people/accounts";
import { auth } from "@/server/people/auth";
import { endPerson } from "@/server/people/end-person";
import { sendNewPassword } from "@/server/people/forgotten";
import { readHands } from "@/server/people/hand-on";
import { invite, readInvitations } from "@/server/people/invite";
import { joinAs, joinNew, readJoin } from "@/server/people/join";
import { digestOf } from "@/server/people/link-token";
import { sendAccountLetters } from "@/server/people/letters";
import type { Viewer } from "@/server/people/viewer";
import { readDesignHistory } from "@/server/workflow/design-history";
import { startMailStandIn, type MailStandIn } from "../../standins/mail/server";
import { ANSWERS, itemIn, refusalOf, send } from "./setup/board";
import { GRETA, INES, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
process.env.BETTER_AUTH_SECRET = "tests-only-secret-of-more-than-32-letters-0123456789";

let standIn: MailStandIn;
const withMail = () =>
  Object.assign(process.env, { MAIL_HOST: "127.0.0.1", MAIL_PORT: String(standIn.smtpPort) });
const withoutMail = () => delete process.env.MAIL_HOST;
beforeAll(async () => {
  standIn = await startMailStandIn({ smtpPort: 0, webPort: 0, domain: "x.example", doorPort: 1 });
});
afterAll(async () => {
  closeMail();
  await standIn.close();
});
beforeEach(withoutMail);

const asked = (change: object) =>
  inviteBody.parse({ kind: "link", uses: 2, role: "member", days: 7, ...change });
const link = async (change: object = {}, by: Viewer = INES) =>
  (await invite(by, "TIX", asked(change))).links[0].token;
const someone = (n: number) => ({
  name: `Marit Lund ${n}`,
  email: `marit${n}@harbour.example`,
  password: "a tide of its own",
});
const roleOf = async (personId: string) =>
  (
    await database()
      .select({ role: membership.role })
      .from(membership)
      .where(and(eq(membership.projectId, "tix"), eq(membership.personId, personId)))
  )[0]?.role;
const accountOf = async (email: string) =>
  (await database().select().from(person).where(eq(person.email, email)))[0];
const linkIn = (text: string) => /\/(?:join|welcome)\/([\w-]+)/.exec(text)![1];
const lettersTo = (to: string) => standIn.mailbox.all().filter((mail) => mail.to === to);

describe("a link for several", () => {
  test("lets in as many as it says, each with an account and the role, and then nobody", async () => {
    const token = await link({ role: "observer" });
    expect(await readJoin(token, null)).toEqual({
      projectName: "Ticket app",
      role: "observer",
      by: "Ines Dahl",
      email: null,
      signedInAs: null,
    });
    for (const n of [1, 2]) expect(await joinNew(token, someone(n))).toEqual({ projectKey: "TIX" });
    const { id, emailVerified } = await accountOf(someone(1).email);
    expect(await roleOf(id)).toBe("observer");
    expect(emailVerified).toBe(false);
    expect(await refusalOf(joinNew(token, someone(3)))).toBe("not found");
    expect(await accountOf(someone(3).email)).toBeUndefined();
    const { invitations } = await readInvitations(INES, "TIX");
    expect(invitations[0]).toMatchObject({ uses: 2, mostUses: 2, standing: "used up" });
  });

  test("two who come at once do not both take the last place", async () => {
    const token = await link({ uses: 1 });
    const came = await Promise.allSettled([joinNew(token, someone(3)), joinNew(token, someone(4))]);
    expect(came.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
  });

  test("takes whoever has an account as who they are; who is in already uses nothing up", async () => {
    const token = await link();
    await joinAs(NOOR, token);
    expect(await roleOf("noor")).toBe("member");
    await joinAs(OSKAR, token);
    expect(await roleOf("oskar")).toBe("member");
    const digest = digestOf(token);
    const of = await database().select().from(invitation).where(eq(invitation.digest, digest));
    expect(of[0].uses).toBe(1);
  });

  test("lets nobody in once it was revoked or its time is over, and is kept as a digest only", async () => {
    const token = await link({ days: 1 });
    expect(await refusalOf(readJoin(token, null, Date.now() + DAY + 1))).toBe("not found");
    const [{ id, digest }] = (
      await database().select().from(invitation).where(isNull(invitation.revokedAt))
    ).sort((a, b) => b.madeAt - a.madeAt);
    expect(digest).not.toContain(token);
    await invite(INES, "TIX", { kind: "revoke", id });
    expect(await refusalOf(readJoin(token, null))).toBe("not found");
    expect(await refusalOf(joinAs(OSKAR, token))).toBe("not found");
  });

  test("of a taken name or address nothing is made", async () => {
    const token = await link();
    const taken = { ...someone(5), name: "noor  bakri" };
    expect(await refusalOf(joinNew(token, taken))).toBe("invalid");
    expect(await accountOf(taken.email)).toBeUndefined();
  });
});

describe("an invitation by mail", () => {
  test("is a letter with a link that only that address can use", async () => {
    withMail();
    const emails = ["Signe@Harbour.example", "pal@harbour.example", "signe@harbour.example"];
    const { links, invitations, mailGoesOut } = await invite(
      INES,
      "TIX",
      asked({ kind: "mail", emails }),
    );
    expect([links, mailGoesOut]).toEqual([[], true]);
    expect(invitations.filter(({ standing }) => standing === "open").length).toBeGreaterThan(1);
    expect(await sendAccountLetters()).toBe(2);
    const [letter] = lettersTo("signe@harbour.example");
    expect(letter.subject).toBe("Ines Dahl invites you to Ticket app");
    const token = linkIn(letter.text);
    const signe = { ...someone(6), name: "Signe Moe", email: "signe@harbour.example" };
    expect(await refusalOf(joinNew(token, someone(6)))).toBe("invalid");
    expect(await refusalOf(joinAs(OSKAR, token))).toBe("invalid");
    await joinNew(token, signe);
    expect((await accountOf(signe.email)).emailVerified).toBe(true);
    // Nothing of the links is left where letters are kept.
    const kept = await database().select({ body: accountLetter.body }).from(accountLetter);
    expect(kept.map(({ body }) => body)).toEqual(kept.map(() => ""));
    expect(await sendAccountLetters()).toBe(0);
  });

  test("where no mail leaves, the links are handed over", async () => {
    const emails = ["a@harbour.example", "b@harbour.example"];
    const { links } = await invite(INES, "TIX", asked({ kind: "mail", emails }));
    expect(links.map(({ email }) => email)).toEqual(emails);
    expect((await readJoin(links[1].token, null)).email).toBe("b@harbour.example");
  });

  test("a letter that nobody takes is tried again, and given up with its link emptied", async () => {
    Object.assign(process.env, { MAIL_HOST: "127.0.0.1", MAIL_PORT: "9" });
    await invite(INES, "TIX", asked({ kind: "mail", emails: ["c@harbour.example"] }));
    const to = () =>
      database()
        .select()
        .from(accountLetter)
        .where(eq(accountLetter.recipient, "c@harbour.example"));
    let now = Date.now();
    for (let tries = 1; tries <= 8; tries++) {
      expect(await sendAccountLetters(now)).toBe(0);
      expect((await to())[0].tries).toBe(tries);
      now += DAY;
    }
    expect((await to())[0]).toMatchObject({ body: "", sentAt: null, failed: "not taken" });
    closeMail();
  });
});

test("invitations are for those who may add people, and stand in the history of the design", async () => {
  const all: InviteRequest = asked({});
  for (const viewer of [NOOR, TOMAS]) {
    expect(await refusalOf(invite(viewer, "TIX", all))).toBe("not allowed");
    expect(await refusalOf(readInvitations(viewer, "TIX"))).toBe("not allowed");
  }
  await joinNew(await link(), someone(7));
  const { changes } = await readDesignHistory(INES, "TIX");
  expect(changes.slice(0, 2).map(({ said }) => said)).toEqual([
    "Marit Lund 7 came as member by an invitation",
    "made a link that lets in up to 2 as member",
  ]);
  const other = (await readInvitations(INES, "TIX")).invitations[0].id;
  expect(await refusalOf(invite(OSKAR, "GATE", { kind: "revoke", id: other }))).toBe("not allowed");
  expect(await refusalOf(invite(INES, "GATE", { kind: "revoke", id: other }))).toBe("not found");
});

describe("a forgotten password", () => {
  const openLinks = () =>
    database().select().from(passwordLink).where(isNull(passwordLink.madeById));

  test("is set anew by a letter to the address of the account, within two hours", async () => {
    withMail();
    const [{ email, id }] = await database().select().from(person).where(eq(person.id, "ruth"));
    await sendNewPassword(email);
    await sendAccountLetters();
    const token = linkIn(lettersTo(email)[0].text);
    expect(
      await refusalOf(setPasswordByLink(token, "another tide", Date.now() + 2 * HOUR + 1)),
    ).toBe("not found");
    await setPasswordByLink(token, "another tide");
    const body = { email, password: "another tide" };
    expect((await auth().api.signInEmail({ body })).user.id).toBe(id);
  });

  test("of nobody, of somebody who left, and more often than three times an hour there is none", async () => {
    withMail();
    await sendNewPassword("nobody@saltmarsh.example");
    const [{ email }] = await database().select().from(person).where(eq(person.id, "mei"));
    await database().update(person).set({ endedAt: 1 }).where(eq(person.id, "mei"));
    await sendNewPassword(email);
    await database().update(person).set({ endedAt: null }).where(eq(person.id, "mei"));
    expect(await sendAccountLetters()).toBe(0);
    const [{ email: often }] = await database().select().from(person).where(eq(person.id, "jonah"));
    for (let i = 0; i < 5; i++) await sendNewPassword(often);
    await sendAccountLetters();
    expect(lettersTo(often)).toHaveLength(3);
    // Of several only the last link can be used.
    const mine = (await openLinks()).filter(({ personId }) => personId === "jonah");
    expect(mine).toHaveLength(1);
  });
});

test("whoever asks for a new password takes no link away that was handed over; using one ends the others", async () => {
  withMail();
  const make = { name: "Wren Tolley", email: "wren@saltmarsh.example", calling: "" };
  const handed = await editAccounts(GRETA, { kind: "make", ...make, administrator: false });
  await sendNewPassword(make.email);
  await sendAccountLetters();
  const mailed = linkIn(lettersTo(make.email).at(-1)!.text);
  expect((await readWelcome(handed.token)).name).toBe("Wren Tolley");
  await setPasswordByLink(handed.token, "ebb and flow");
  expect(await refusalOf(setPasswordByLink(mailed, "somebody else's"))).toBe("not found");
});

describe("what somebody who leaves had in hand", () => {
  const openOf = (personId: string) =>
    database()
      .select({ id: item.id })
      .from(item)
      .where(
        and(
          or(eq(item.assigneeId, personId), eq(item.reviewerId, personId)),
          ne(item.stateKind, "finished"),
          isNull(item.withdrawnAt),
        ),
      );

  test("is counted by project, and goes to whom is named, or to nobody", async () => {
    const mine = await itemIn(NOOR, "Hands on the wheel", "Ready");
    await send(NOOR, mine, {
      kind: "move",
      from: (await database().select().from(item).where(eq(item.id, mine)))[0].stateId,
      to: (
        await database()
          .select()
          .from(item)
          .where(eq(item.id, await itemIn(NOOR, "x", "Ready", "Building")))
      )[0].stateId,
      answers: { ...ANSWERS, assigneeId: "lukas" },
    });
    const { projects } = await readHands(GRETA, "lukas");
    const open = await openOf("lukas");
    expect(projects.map(({ key }) => key)).toContain("TIX");
    const told = projects.reduce((sum, p) => sum + p.assigned + p.reviews, 0);
    expect(told).toBeGreaterThanOrEqual(open.length);
    expect(projects.flatMap(({ people }) => people.map(({ id }) => id))).not.toContain("lukas");
    const handOn = [{ projectId: "tix", personId: "ivo" }];
    const { handedOn, left } = await endPerson(GRETA, "lukas", { ended: true, handOn });
    expect(handedOn + left).toBe(open.length);
    expect(await openOf("lukas")).toEqual([]);
    const [after] = await database().select().from(item).where(eq(item.id, mine));
    expect(after.assigneeId).toBe("ivo");
    await endPerson(GRETA, "lukas", { ended: false, handOn: [] });
  });

  test("goes to nobody who does not belong to the project, and then nobody has left", async () => {
    const handOn = [{ projectId: "tix", personId: "oskar" }];
    const id = "dina";
    await database().delete(membership).where(eq(membership.personId, "oskar"));
    expect(await refusalOf(endPerson(GRETA, id, { ended: true, handOn }))).toBe("invalid");
    const [{ endedAt }] = await database().select().from(person).where(eq(person.id, id));
    expect(endedAt).toBeNull();
    expect(await refusalOf(readHands(INES, id))).toBe("not allowed");
  });
});
