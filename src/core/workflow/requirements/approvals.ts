import { z } from "zod";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

const MOST = 20;

/** Who approves, by role. A lead is a member too. */
const WHO = {
  lead: { one: "lead", several: "leads" },
  member: { one: "member", several: "members" },
  anybody: { one: "person", several: "people" },
} as const;

export const approvals = requirementKind({
  title: "people approve it",
  refused: "nobody had approved it",
  parameters: {
    count: z.number().int().min(1).max(MOST),
    role: z.enum(["lead", "member"]).nullable(),
    teamId: z.string().min(1).max(64).nullable(),
  },
  begins: { count: 1, role: null, teamId: null },
  editors: {
    count: { kind: "number", label: "How many approvals", least: 1, most: MOST },
    role: {
      kind: "choice or none",
      label: "Role of who approves",
      options: () => [
        { value: "", label: "of anybody" },
        { value: "member", label: "of members" },
        { value: "lead", label: "of leads" },
      ],
    },
    teamId: {
      kind: "choice or none",
      label: "Team of who approves",
      options: ({ teams }) => [
        { value: "", label: "of any team" },
        ...teams.map((t) => ({ value: t.id, label: t.name })),
      ],
    },
  },
  words: ({ count, role, teamId }, { teams }) => {
    const { one: who, several: many } = WHO[role ?? "anybody"];
    const name = teams.find((t) => t.id === teamId)?.name ?? "somebody gone";
    return `approved by ${count === 1 ? `a ${who}` : `${count} ${many}`}${teamId ? ` of ${name}` : ""}`;
  },
  unmet: ({ count, role, teamId }, { before, teamsOf, teamName, nameOf }) => {
    // Nobody approves their own work.
    const counted = before.approvals.filter(
      (a) =>
        a.byId !== before.assigneeId &&
        (role === null || a.role === role || (role === "member" && a.role === "lead")) &&
        (teamId === null || teamsOf(a.byId).includes(teamId)),
    );
    const missing = count - new Set(counted.map((a) => a.byId)).size;
    if (missing <= 0) return null;
    const { one, several } = WHO[role ?? "anybody"];
    const asked = role === null ? "somebody" : `a ${one}`;
    const from = [missing === 1 ? asked : several, teamId ? `of ${teamName(teamId)}` : ""]
      .filter(Boolean)
      .join(" ");
    return refuse(
      "approvals",
      missing === 1 ? "It needs one more approval." : `It needs ${missing} more approvals.`,
      `Ask ${from} other than ${before.assigneeId ? nameOf(before.assigneeId) : "the assignee"}: they press Approve on the item.`,
    );
  },
});
