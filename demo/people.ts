/** The digital crew of Saltmarsh Ferries. Every person and address is made up. */
import type { Duty, DutyHolder } from "@/core/people/duty";

export type ProjectKey = "TIX" | "GATE" | "TIDE";

export interface DemoPerson {
  id: string;
  name: string;
  calling: string;
  team: string;
  /** What they are good for, in every project they work in. */
  trades?: string[];
  administrator?: boolean;
  /** Role in each project they belong to. */
  roles: Partial<Record<ProjectKey, "lead" | "member" | "observer">>;
  /** What they do in the simulated history. */
  does: ("build" | "test" | "triage" | "deploy")[];
}

export const DEMO_PASSWORD = "tide-goes-out";
export const MAIL_DOMAIN = "saltmarsh.example";

export const TEAMS = [
  { id: "ticketing", name: "Ticketing" },
  { id: "quayside", name: "Quayside" },
  { id: "timetables", name: "Timetables" },
  { id: "platform", name: "Platform" },
];

export const PEOPLE: DemoPerson[] = [
  {
    id: "ines",
    name: "Ines Dahl",
    calling: "Delivery lead",
    team: "ticketing",
    roles: { TIX: "lead", GATE: "lead", TIDE: "lead" },
    does: ["deploy"],
  },
  {
    id: "tomas",
    name: "Tomas Kerr",
    calling: "Triager",
    team: "platform",
    trades: ["payments"],
    roles: { TIX: "member", GATE: "member", TIDE: "member" },
    does: ["triage", "build"],
  },
  {
    id: "noor",
    name: "Noor Bakri",
    calling: "Developer",
    team: "ticketing",
    trades: ["payments", "phone app"],
    roles: { TIX: "member" },
    does: ["build"],
  },
  {
    id: "ivo",
    name: "Ivo Sandell",
    calling: "Developer",
    team: "ticketing",
    trades: ["maps", "server administrator"],
    roles: { TIX: "member", TIDE: "member" },
    does: ["build"],
  },
  {
    id: "ruth",
    name: "Ruth Abara",
    calling: "Developer",
    team: "ticketing",
    trades: ["phone app", "accessibility"],
    roles: { TIX: "member" },
    does: ["build"],
  },
  {
    id: "mei",
    name: "Mei Olander",
    calling: "Designer",
    team: "ticketing",
    trades: ["designer"],
    roles: { TIX: "member" },
    does: ["build"],
  },
  {
    id: "lukas",
    name: "Lukas Pell",
    calling: "Tester",
    team: "ticketing",
    trades: ["tester"],
    roles: { TIX: "member", GATE: "member" },
    does: ["test"],
  },
  {
    id: "hanna",
    name: "Hanna Vik",
    calling: "Tester",
    team: "platform",
    trades: ["tester", "accessibility"],
    roles: { TIX: "member", TIDE: "member", GATE: "member" },
    does: ["test"],
  },
  {
    id: "oskar",
    name: "Oskar Thorne",
    calling: "Developer",
    team: "quayside",
    trades: ["server administrator"],
    roles: { GATE: "member" },
    does: ["build"],
  },
  {
    id: "dina",
    name: "Dina Marsh",
    calling: "Device engineer",
    team: "quayside",
    trades: ["gate devices"],
    roles: { GATE: "member" },
    does: ["build"],
  },
  {
    id: "jonah",
    name: "Jonah Reed",
    calling: "Developer",
    team: "quayside",
    roles: { GATE: "member" },
    does: ["build"],
  },
  {
    id: "petra",
    name: "Petra Lind",
    calling: "Data engineer",
    team: "timetables",
    trades: ["timetable data"],
    roles: { TIDE: "member" },
    does: ["build"],
  },
  {
    id: "samir",
    name: "Samir Holt",
    calling: "Developer",
    team: "timetables",
    roles: { TIDE: "member" },
    does: ["build"],
  },
  {
    id: "greta",
    name: "Greta Falk",
    calling: "Release manager",
    team: "platform",
    administrator: true,
    roles: { TIX: "member", GATE: "member", TIDE: "member" },
    does: ["deploy"],
  },
  {
    id: "arthur",
    name: "Arthur Quill",
    calling: "Route manager",
    team: "platform",
    roles: { TIX: "observer", GATE: "observer" },
    does: [],
  },
];

/** Who is away, in days from now: one on a walking tour, one at the harbour fair next week. */
export const DAYS_OFF = [
  { personId: "mei", from: -2, to: 4 },
  { personId: "ruth", from: 5, to: 6 },
];

export const mailOf = (person: { name: string }) =>
  `${person.name.toLowerCase().replace(/[^a-z]+/g, ".")}@${MAIL_DOMAIN}`;

/** Who has which duty in a project; nobody is named for what every member does. */
export function demoDuties(project: ProjectKey): DutyHolder[] {
  const person = (duty: Duty, holderId: string): DutyHolder => ({
    duty,
    holderKind: "person",
    holderId,
  });
  const doing = (what: DemoPerson["does"][number]) =>
    PEOPLE.filter(
      (p) => p.does.includes(what) && ["lead", "member"].includes(p.roles[project] ?? ""),
    );
  return [
    ...doing("triage").map((p) => person("triages", p.id)),
    ...doing("test").map((p) => person("tests", p.id)),
    person("releases", "greta"),
    person("plans", "ines"),
  ];
}
