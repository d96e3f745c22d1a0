/** Who may do what. One table; every use case asks it, and a test walks the whole of it. */

export const ROLES = ["administrator", "lead", "member", "observer", "requester"] as const;
/** Observers read only; a requester has no account and is known by the token of a private page. */
export type Role = (typeof ROLES)[number];

export const ACTIONS = [
  "start project",
  "read project",
  "read flow",
  "create item",
  "move item",
  "edit item",
  "rank item",
  "comment item",
  "block item",
  "link item",
  "withdraw item",
  "read withdrawn",
  "empty text",
  "close talk",
  "override limit",
  "read intake",
  "judge report",
  "plan work",
  "read time of others",
  "keep view",
  "share view",
  "edit workflow",
  "edit board",
  "edit members",
  "put away project",
  "send report",
  "answer question",
] as const;
export type Action = (typeof ACTIONS)[number];

const EVERYTHING: readonly Action[] = ACTIONS;
const WORK: readonly Action[] = [
  "start project",
  "read project",
  "read flow",
  "create item",
  "move item",
  "edit item",
  "rank item",
  "comment item",
  "block item",
  "link item",
  "withdraw item",
  "plan work",
  "keep view",
  "share view",
  "read intake",
  "judge report",
  "send report",
];

export const MAY: Record<Role, ReadonlySet<Action>> = {
  administrator: new Set(EVERYTHING),
  lead: new Set(EVERYTHING),
  member: new Set(WORK),
  observer: new Set<Action>(["read project", "read flow", "keep view", "send report"]),
  requester: new Set<Action>(["send report", "answer question"]),
};

/** What can still be done in a project that was put away, by whoever may: it is read, or brought back. */
const WHERE_PUT_AWAY: ReadonlySet<Action> = new Set<Action>([
  "read project",
  "read flow",
  "read intake",
  "read withdrawn",
  "put away project",
]);

/** Whether an action is still there in a project that was put away. */
export const staysWherePutAway = (action: Action): boolean => WHERE_PUT_AWAY.has(action);

/** Whether a role may do something; without a role nothing is allowed. */
export function may(role: Role | null, action: Action): boolean {
  return role !== null && MAY[role].has(action);
}

export type Visibility = "everyone" | "members";

/**
 * Where a signed-in person stands outside any project: as in the one where they may do most;
 * without any, they only look.
 */
export function roleOutside(
  person: { administrator: boolean },
  memberships: readonly ("lead" | "member" | "observer")[],
): Role {
  if (person.administrator) return "administrator";
  return (["lead", "member"] as const).find((role) => memberships.includes(role)) ?? "observer";
}

/** The role of a signed-in person in a project; null when they may not even see it. */
export function roleIn(
  person: { administrator: boolean },
  membership: "lead" | "member" | "observer" | null,
  visibility: Visibility,
): Role | null {
  if (person.administrator) return "administrator";
  if (membership) return membership;
  return visibility === "everyone" ? "observer" : null;
}
