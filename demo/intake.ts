import { randomBytes } from "node:crypto";
import { HOUR, type Instant } from "@/core/calendar/instant";
import type { Random } from "@/core/forecast/random";
import {
  FIRST_FORM,
  PART_QUESTIONS,
  type FormAnswer,
  type FormDefinition,
  type FormQuestion,
} from "@/core/intake/form";
import { letter } from "@/core/intake/letters";
import type {
  intakeForm,
  knownProblem,
  mailAddress,
  mailIn,
  mailOut,
  report,
  reportFollower,
  reproduction,
} from "@/db/schema";
import { pageAddress } from "@/server/mail/settings";
import type { DemoItem } from "./history";
import type { DemoProject } from "./projects";

type NewId = () => string;

const own = (
  id: string,
  kind: FormQuestion["kind"],
  label: string,
  more: Partial<FormQuestion> = {},
): FormQuestion => ({
  id,
  fills: null,
  kind,
  label,
  help: "",
  required: false,
  options: [],
  shownIf: null,
  ...more,
});

const PASSENGERS: FormDefinition = {
  ...FIRST_FORM,
  title: "What went wrong with your ticket?",
  intro:
    "Tell us about the app, your ticket or the gate. A person reads every report, the oldest first.",
  questions: [
    PART_QUESTIONS.title,
    PART_QUESTIONS.happened,
    own("travelled", "yes or no", "Could you travel in the end?", { required: true }),
    own("let-through", "one of", "Who helped you on board?", {
      options: ["the crew", "the ticket window", "another passenger", "nobody"],
      shownIf: { questionId: "travelled", is: "yes" },
    }),
    own("paid", "number", "What did it cost you, in pounds?", {
      help: "Another ticket, a taxi, a night on the island",
      shownIf: { questionId: "travelled", is: "no" },
    }),
    { ...PART_QUESTIONS.place, help: "Town Quay, Gull Island, on board, at home" },
    own("phone", "short text", "Which phone do you use?", {
      help: "Its make and about how old it is",
    }),
    PART_QUESTIONS.files,
    PART_QUESTIONS.mail,
  ],
  thanks: "If you are on the quay right now: show this to the crew, they will let you board.",
};

const GROUPS: FormDefinition = {
  title: "Travelling as a group",
  intro: "For schools, clubs and firms: what would make it easier to travel with us?",
  questions: [
    { ...PART_QUESTIONS.title, label: "What would help you?" },
    { ...PART_QUESTIONS.happened, label: "Tell us more", required: false },
    own("how-many", "number", "For how many people?", { required: true }),
    own("with", "several of", "What do you bring along?", {
      options: ["bicycles", "prams", "wheelchairs", "dogs", "instruments"],
    }),
    own("by", "date", "By when do you need it?"),
    PART_QUESTIONS.mail,
  ],
  thanks: "We look at what groups ask for on the first Monday of each month.",
  lands: { teamId: "ticketing", typeId: "request" },
  offersKnown: false,
};

const QUAY_STAFF: FormDefinition = {
  ...FIRST_FORM,
  title: "Something is wrong at the quay",
  intro:
    "For everybody who works on quays and boats. If people are in danger, call the bridge first.",
  questions: [
    { ...PART_QUESTIONS.title, label: "What is wrong, in a few words?" },
    own("gate", "one of", "Which gate?", {
      required: true,
      options: ["gate 1", "gate 2", "gate 3", "gate 4", "another place"],
    }),
    { ...PART_QUESTIONS.happened, required: false },
    { ...PART_QUESTIONS.place, label: "Which quay?", required: true },
    PART_QUESTIONS.files,
    PART_QUESTIONS.mail,
  ],
  lands: { teamId: "quayside", typeId: "bug" },
};

/** The forms of a demo project. */
export function demoForms(project: DemoProject, newId: NewId): (typeof intakeForm.$inferInsert)[] {
  const form = (
    slug: string,
    definition: FormDefinition,
    position: number,
    more: Partial<typeof intakeForm.$inferInsert> = {},
  ) => ({
    id: newId(),
    projectId: project.key.toLowerCase(),
    slug,
    definition,
    open: true,
    embeddable: false,
    position,
    version: 1,
    ...more,
  });
  if (project.key === "TIX")
    return [
      form("report", PASSENGERS, 0, { embeddable: true }),
      form("groups", GROUPS, 1),
      form(
        "winter-survey",
        {
          ...FIRST_FORM,
          title: "How was the winter timetable?",
          intro: "Closed since the spring.",
        },
        2,
        { open: false },
      ),
    ];
  return [form("report", project.key === "GATE" ? QUAY_STAFF : FIRST_FORM, 0)];
}

/** The mail addresses of a demo project. */
export function demoAddresses(
  project: DemoProject,
  now: Instant,
): (typeof mailAddress.$inferInsert)[] {
  const address = (name: string, teamId: string | null, i: number) => ({
    name,
    projectId: project.key.toLowerCase(),
    teamId,
    open: true,
    createdAt: now - (300 - i) * 24 * HOUR,
  });
  if (project.key === "TIX")
    return [address("tickets", null, 0), address("refunds", "ticketing", 1)];
  return [
    project.key === "GATE"
      ? address("quays", "quayside", 0)
      : address("timetables", "timetables", 0),
  ];
}

/** Problems that passengers may know of: bugs in progress that hurt. */
export function demoKnown(
  project: DemoProject,
  items: readonly DemoItem[],
  now: Instant,
): (typeof knownProblem.$inferInsert)[] {
  if (project.key === "TIDE") return [];
  return items
    .filter(
      ({ snapshot: s }) =>
        s.typeId === "bug" &&
        !s.parentId &&
        (s.stateKind === "working" || s.stateKind === "waiting"),
    )
    .slice(-4)
    .map(({ snapshot }) => ({
      itemId: snapshot.id,
      words: snapshot.title,
      byId: "tomas",
      at: now - 30 * HOUR,
    }));
}

/** Tries to make reports happen, and others to whom they happened. */
export function demoAround(
  reports: readonly { id: string; title: string }[],
  random: Random,
  newId: NewId,
  now: Instant,
): {
  tries: (typeof reproduction.$inferInsert)[];
  followers: (typeof reportFollower.$inferInsert)[];
} {
  const tries: (typeof reproduction.$inferInsert)[] = [];
  const followers: (typeof reportFollower.$inferInsert)[] = [];
  for (const { id, title } of reports) {
    const at = now - random.index(40) * HOUR;
    if (/offline|network/.test(title)) {
      tries.push({
        id: newId(),
        reportId: id,
        byId: "ivo",
        at,
        tried: "Test gate in the workshop, phone in flight mode",
        version: "app 4.12.1",
        result: "happened",
        note: "Three of three times. With a network it is accepted.",
      });
      tries.push({
        id: newId(),
        reportId: id,
        byId: "mei",
        at: at - HOUR,
        tried: "Same gate, ticket bought two days before",
        version: "app 4.11.0",
        result: "did not happen",
        note: "",
      });
    }
    if (/charged twice|taken two/.test(title))
      followers.push({
        id: newId(),
        reportId: id,
        mail: `neighbour.${followers.length + 1}@post.saltmarsh.example`,
        token: randomBytes(24).toString("base64url"),
        at,
      });
  }
  return { tries, followers };
}

/** What a passenger answered to the form's own questions. */
export function demoAnswers(project: DemoProject, reference: number): FormAnswer[] {
  if (project.key !== "TIX") return [];
  const answer = (questionId: string, value: string): FormAnswer => ({
    questionId,
    label: PASSENGERS.questions.find((q) => q.id === questionId)!.label,
    value,
  });
  const travelled = reference % 3 !== 0;
  const helped = ["the crew", "the ticket window", "nobody"][reference % 3];
  return [
    answer("travelled", travelled ? "yes" : "no"),
    travelled ? answer("let-through", helped) : answer("paid", String(12 + (reference % 5) * 4)),
    ...(reference % 2 === 0 ? [answer("phone", "about four years old")] : []),
  ];
}

const DOMAIN = "in.saltmarsh.example";
const LATELY = 20;

/**
 * The mail of the last weeks: what came in by mail, and the receipts and questions that went out.
 */
export function demoMail(
  project: DemoProject,
  reports: readonly (typeof report.$inferInsert)[],
  now: Instant,
): { received: (typeof mailIn.$inferInsert)[]; written: (typeof mailOut.$inferInsert)[] } {
  const projectId = project.key.toLowerCase();
  const id = () => `<${randomBytes(12).toString("hex")}@post.saltmarsh.example>`;
  const lately = reports
    .filter((r) => r.receivedAt < now)
    .toSorted((a, b) => b.receivedAt - a.receivedAt)
    .slice(0, LATELY);
  const received: (typeof mailIn.$inferInsert)[] = lately
    .filter((r) => r.way === "mail")
    .map((r) => ({
      messageId: id(),
      projectId,
      reportId: r.id,
      sender: r.mail,
      subject: r.title,
      became: "report",
      at: r.receivedAt,
    }));
  received.push({
    messageId: id(),
    projectId,
    reportId: null,
    sender: "away@post.saltmarsh.example",
    subject: "I am at sea until Thursday",
    became: "automatic",
    at: now - 31 * HOUR,
  });
  const written = lately.toReversed().map((r): typeof mailOut.$inferInsert => {
    const at = r.receivedAt + 20_000;
    return {
      messageId: `<${randomBytes(18).toString("base64url")}@${DOMAIN}>`,
      reportId: r.id!,
      recipient: r.mail,
      ...letter(
        {
          kind: "receipt",
          thanks: r.formId && project.key === "TIX" ? PASSENGERS.thanks : "",
          hearBy: null,
        },
        {
          projectName: project.name,
          reference: r.reference,
          title: r.title,
          page: pageAddress(r.token),
        },
      ),
      at,
      dueAt: at,
      sentAt: at + 1_000,
      tries: 1,
    };
  });
  return { received, written };
}
