import type { Action } from "../people/authorise";
import { bestOf, howWell } from "./how-well";
import type { FoundPlace } from "./found";

interface ProjectPlace {
  name: string;
  /** Behind the address of the project. */
  path: string;
  /** What one has to be allowed to do there. */
  needs: Action;
  /** By which other words people look for it. */
  also?: string[];
}

/** All places of a project, in the order of its course. */
export const PROJECT_PLACES: readonly ProjectPlace[] = [
  { name: "Design", path: "/design", needs: "read project", also: ["process", "workflow"] },
  {
    name: "Types and fields",
    path: "/design?place=fields",
    needs: "read project",
    also: ["own fields", "levels"],
  },
  {
    name: "Labels and parts",
    path: "/design?place=terms",
    needs: "read project",
    also: ["parts of the product", "places"],
  },
  {
    name: "Boards and limits",
    path: "/design?place=boards",
    needs: "read project",
    also: ["WIP limits", "columns"],
  },
  {
    name: "People of the project",
    path: "/design?place=people",
    needs: "read project",
    also: ["members", "roles", "duties"],
  },
  {
    name: "Project settings",
    path: "/design?place=project",
    needs: "read project",
    also: ["name", "visibility", "time zone", "expectation"],
  },
  {
    name: "History of the design",
    path: "/design?place=history",
    needs: "edit workflow",
    also: ["who changed", "settings"],
  },
  {
    name: "Events",
    path: "/design?place=events",
    needs: "read project",
    also: ["sources", "deployments"],
  },
  {
    name: "Triage desk",
    path: "/intake",
    needs: "read intake",
    also: ["Intake", "reports", "queue"],
  },
  { name: "Forms", path: "/intake/forms", needs: "read intake" },
  { name: "Mailbox", path: "/intake/mailbox", needs: "read intake", also: ["mail"] },
  {
    name: "Promises",
    path: "/intake/promises",
    needs: "read intake",
    also: ["service targets", "working calendar"],
  },
  { name: "Worth", path: "/intake/worth", needs: "read intake", also: ["scoring", "votes"] },
  { name: "Triage rules", path: "/intake/rules", needs: "read intake" },
  { name: "Import of reports", path: "/intake/import", needs: "judge report" },
  { name: "Plan", path: "/plan", needs: "read project", also: ["backlog", "reach", "releases"] },
  {
    name: "Planning sprints",
    path: "/plan/planning",
    needs: "read project",
    also: ["room", "capacity", "dependencies"],
  },
  {
    name: "Sprints",
    path: "/plan/sprints",
    needs: "read project",
    also: ["burn-down", "velocity", "sprint report"],
  },
  {
    name: "Releases",
    path: "/plan/releases",
    needs: "read project",
    also: ["burn-up", "what goes out"],
  },
  {
    name: "Sizing",
    path: "/plan/sizing",
    needs: "read project",
    also: ["estimate together", "round", "points"],
  },
  {
    name: "Calendar",
    path: "/plan/calendar",
    needs: "read project",
    also: ["month", "due dates", "holidays", "who is away", "iCalendar"],
  },
  {
    name: "Large pieces",
    path: "/plan/pieces",
    needs: "read project",
    also: ["tree", "hierarchy"],
  },
  {
    name: "What waits for what",
    path: "/plan/waiting",
    needs: "read project",
    also: ["dependencies", "longest chain"],
  },
  {
    name: "People’s room",
    path: "/plan/room",
    needs: "read project",
    also: ["capacity", "load", "who has time", "who could take it"],
  },
  {
    name: "Items in and out",
    path: "/plan/import",
    needs: "read project",
    also: ["import", "export", "CSV", "table"],
  },
  {
    name: "My time",
    path: "/plan/time",
    needs: "read project",
    also: ["week", "hours", "time sheet", "record time"],
  },
  {
    name: "Parts of the product",
    path: "/plan/parts",
    needs: "read project",
    also: ["owners", "who looks after"],
  },
  { name: "Flow", path: "/flow", needs: "read project", also: ["board", "table", "timeline"] },
  { name: "All views", path: "/flow/views", needs: "read project" },
  { name: "Walk", path: "/flow/walk", needs: "read project", also: ["stand-up"] },
  {
    name: "Changes",
    path: "/ship",
    needs: "read project",
    also: ["Ship", "code", "branches", "merge", "commits", "closing words"],
  },
  {
    name: "Reviews",
    path: "/ship/reviews",
    needs: "read project",
    also: ["what I have to review", "reviewer", "queue"],
  },
  {
    name: "Tests",
    path: "/ship/tests",
    needs: "read project",
    also: ["what I have to test", "tester", "test run", "queue"],
  },
  {
    name: "Test cases",
    path: "/ship/tests/cases",
    needs: "read project",
    also: ["suites", "steps", "unsteady", "flaky"],
  },
  {
    name: "Environments",
    path: "/ship/environments",
    needs: "read project",
    also: ["Ship", "what is where", "deploy", "live", "test", "frozen days", "pipeline"],
  },
  {
    name: "Acceptance",
    path: "/ship/acceptance",
    needs: "read project",
    also: ["accept", "customer", "sign off", "show to somebody"],
  },
  {
    name: "Releases going out",
    path: "/ship/releases",
    needs: "read project",
    also: ["release notes", "what stands against it", "readiness", "it is out"],
  },
  { name: "Learn", path: "/learn", needs: "read flow", also: ["charts", "flow figures"] },
];

/** A project as places are looked for in it. */
export interface PlacedProject {
  key: string;
  name: string;
  may: (action: Action) => boolean;
}

/** Places that belong to no project. */
export type OtherPlace = Pick<FoundPlace, "name" | "path">;

/**
 * The places that fit, the best first. Those of the project in which one is are found by their own
 * name, those of others where the words name the project too.
 * @param here key of the project in which one is; null: in none
 */
export function findPlaces(
  words: readonly string[],
  {
    projects,
    others,
    here,
  }: {
    projects: readonly PlacedProject[];
    others: readonly OtherPlace[];
    here: string | null;
  },
): FoundPlace[] {
  const within = projects.flatMap((project) => {
    const { key, name, may } = project;
    const ofIt = words.filter((word) => howWell([word], `${key} ${name}`) !== null);
    const named = ofIt.length > 0 ? words.filter((word) => !ofIt.includes(word)) : words;
    if (key !== here && ofIt.length === 0) return [];
    const places = PROJECT_PLACES.filter(({ needs }) => may(needs));
    return bestOf(named, places, ({ name: called, also = [] }) => [called, ...also]).map(
      ({ name: called, path, fit }) => ({ name: called, of: name, path: `/p/${key}${path}`, fit }),
    );
  });
  const whole = bestOf(words, projects, ({ key, name }) => [key, name, `${key} ${name}`]).map(
    ({ key, name, fit }) => ({ name, of: key, path: `/p/${key}/flow`, fit }),
  );
  const outside = bestOf(words, others, ({ name }) => [name]).map((place) => ({
    ...place,
    of: "",
  }));
  return [...whole, ...within, ...outside].toSorted((a, b) => a.fit - b.fit);
}
