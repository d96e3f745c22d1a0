import { inviteBody, standingOf } from "@/core/people/invitation";
import { DUTIES } from "@/core/people/duty";
import {
  accountBody,
  changePasswordBody,
  dutiesBody,
  endPersonBody,
  memberBody,
  signInBody,
  signUpBody,
  welcomeBody,
} from "@/core/people/request";
import { timeboxBody } from "@/core/plan/request";
import { refused } from "./setup/refused";

const long = (length: number) => "x".repeat(length);
const MAIL = "ines.dahl@saltmarsh.example";

describe("a password", () => {
  test.each([10, 128])("has %d characters", (length) =>
    expect(welcomeBody.parse({ password: long(length) })).toEqual({ password: long(length) }),
  );
  test.each([
    [9, "A password has at least 10 characters."],
    [129, "A password has at most 128 characters."],
  ])("has not %d", (length, says) => {
    expect(refused(welcomeBody, { password: long(length) })).toEqual([says]);
    const change = { currentPassword: "any", newPassword: long(length) };
    expect(refused(changePasswordBody, change)).toEqual([says]);
    const account = { name: "Ines Dahl", email: MAIL, password: long(length) };
    expect(refused(signUpBody, account)).toEqual([says]);
  });
  test("that one had is asked for as it is, whatever it is like", () => {
    for (const password of ["", " x ", long(1_000)]) {
      expect(signInBody.parse({ email: "any", password }).password).toBe(password);
      const change = { currentPassword: password, newPassword: long(10) };
      expect(changePasswordBody.parse(change)).toEqual(change);
    }
    expect(refused(signInBody, { email: "any", password: long(1_001) })).toHaveLength(1);
    expect(refused(signInBody, { email: long(321), password: "x" })).toHaveLength(1);
    const change = { currentPassword: long(1_001), newPassword: long(10) };
    expect(refused(changePasswordBody, change)).toHaveLength(1);
  });
});

describe("an account", () => {
  const made = (change: object = {}) => ({
    kind: "make",
    name: "Ines Dahl",
    email: MAIL,
    calling: "",
    administrator: false,
    ...change,
  });
  test.each([
    made(),
    made({ calling: long(60), administrator: true }),
    { kind: "link", personId: "p" },
  ])("%#: is understood", (body) => expect(accountBody.parse(body)).toEqual(body));
  test("is nobody's who looks after the product, unless it is said", () =>
    expect(accountBody.parse({ kind: "make", name: "Ines Dahl", email: MAIL })).toEqual(made()));
  test("has an address in small letters, without blanks", () =>
    expect(
      accountBody.parse(made({ email: " Ines.Dahl@Saltmarsh.example ", calling: " lead " })),
    ).toEqual(made({ calling: "lead" })));
  test.each([
    [made({ email: "ines" }), "This is no mail address."],
    [made({ email: `${long(60)}@${`${long(60)}.`.repeat(3)}example` }), /./],
    [made({ name: " " }), "Say what you are called."],
    [made({ calling: long(61) }), /./],
    [{ kind: "link", personId: "" }, /./],
    [{ kind: "link", personId: long(65) }, /./],
    [{ kind: "borrow" }, /./],
  ])("%#: is refused", (body, says) => expect(refused(accountBody, body).join()).toMatch(says));
});

describe("people of a project", () => {
  test("have a role, or none any more", () => {
    for (const role of ["lead", "member", "observer", null])
      expect(memberBody.parse({ personId: "p", role })).toEqual({ personId: "p", role });
    expect(refused(memberBody, { personId: "p", role: "administrator" })).toHaveLength(1);
    expect(refused(memberBody, { personId: "", role: null })).toHaveLength(1);
    expect(refused(memberBody, { personId: long(65), role: null })).toHaveLength(1);
  });
  test("have duties, themselves or with their team", () => {
    const holder = { duty: "reviews", holderKind: "team", holderId: "quay" };
    for (const duty of DUTIES)
      expect(dutiesBody.parse({ holders: [{ ...holder, duty }] }).holders[0].duty).toBe(duty);
    expect(dutiesBody.parse({ holders: Array(500).fill(holder) }).holders).toHaveLength(500);
    expect(refused(dutiesBody, { holders: Array(501).fill(holder) })).toHaveLength(1);
    for (const wrong of [{ duty: "naps" }, { holderKind: "boat" }, { holderId: "" }])
      expect(refused(dutiesBody, { holders: [{ ...holder, ...wrong }] })).toHaveLength(1);
  });
  test("are ended and come back", () => {
    for (const ended of [true, false])
      expect(endPersonBody.parse({ ended })).toEqual({ ended, handOn: [] });
    const to = (projectId: string, personId: string | null) => ({
      ended: true,
      handOn: [{ projectId, personId }],
    });
    expect(endPersonBody.parse(to("tix", null))).toEqual(to("tix", null));
    expect(refused(endPersonBody, to("", "ivo"))).toHaveLength(1);
    expect(refused(endPersonBody, to("tix", long(65)))).toHaveLength(1);
  });
});

describe("a change of sprints and releases", () => {
  const sprint = { id: "s", name: "Ebb", goal: "", startsOn: "2026-02-02", endsOn: "2026-02-15" };
  const release = { id: "r", name: "Crossing 20", dueOn: null, released: false };
  test.each([
    { kind: "sprint", sprint },
    { kind: "sprint", sprint: { ...sprint, goal: long(300), name: long(60) } },
    { kind: "release", release },
    { kind: "release", release: { ...release, dueOn: "2026-12-02", released: true } },
    { kind: "remove sprint", id: "s" },
    { kind: "remove release", id: long(64) },
  ])("%#: is understood", (body) => expect(timeboxBody.parse(body)).toEqual(body));
  test.each([
    { kind: "sprint", sprint: { ...sprint, goal: long(301) } },
    { kind: "sprint", sprint: { ...sprint, id: "" } },
    { kind: "release", release: { ...release, name: " " } },
    { kind: "release", release: { ...release, name: long(61) } },
    { kind: "release", release: { ...release, dueOn: "soon" } },
    { kind: "release", release: { ...release, id: long(65) } },
    { kind: "remove sprint", id: "" },
    { kind: "remove sprint", id: long(65) },
    { kind: "remove release", id: "" },
    { kind: "remove release", id: long(65) },
  ])("%#: is refused", (body) => expect(refused(timeboxBody, body)).toHaveLength(1));
});

describe("an invitation", () => {
  const link = { kind: "link", uses: 3, role: "member", days: 7 };
  const mail = { kind: "mail", emails: ["Ada@quay.example"], role: "observer", days: 1 };
  test("is a link for some people, or letters to some addresses", () => {
    expect(inviteBody.parse(link)).toEqual(link);
    expect(inviteBody.parse(mail)).toEqual({ ...mail, emails: ["ada@quay.example"] });
  });
  test.each([
    { ...link, uses: 0 },
    { ...link, uses: 501 },
    { ...link, uses: 1.5 },
    { ...link, role: "lead" },
    { ...link, days: 90 },
    { ...mail, emails: [] },
    { ...mail, emails: ["quay"] },
    { ...mail, emails: Array.from({ length: 51 }, (_, i) => `a${i}@quay.example`) },
  ])("is not %j", (body) => expect(inviteBody.safeParse(body).success).toBe(false));

  const open = { until: 10, uses: 0, mostUses: 2, revokedAt: null };
  test.each([
    [{}, 9, "open"],
    [{}, 10, "ended"],
    [{ uses: 1 }, 9, "open"],
    [{ uses: 2 }, 9, "used up"],
    [{ revokedAt: 5, uses: 2 }, 20, "revoked"],
  ] as const)("with %j at %s is %s", (change, now, standing) =>
    expect(standingOf({ ...open, ...change }, now)).toBe(standing),
  );
});
