import { z } from "zod";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

const MOST = 20;

/** Whether who approved its changes at the code host has approved it. */
const HOST = ["counts", "counts until new commits"] as const;

/** Who approves, by role. A lead is a member too. */
const WHO = {
  lead: { one: "lead", several: "leads" },
  member: { one: "member", several: "members" },
  anybody: { one: "person", several: "people" },
} as const;

const HOST_WORDS = {
  counts: ", here or at the code host",
  "counts until new commits": ", here or at the code host since the last commit",
} as const;

export const approvals = requirementKind({
  title: "people approve it",
  refused: "nobody had approved it",
  parameters: {
    count: z.number().int().min(1).max(MOST),
    role: z.enum(["lead", "member"]).nullable(),
    teamId: z.string().min(1).max(64).nullable(),
    host: z.enum(HOST).nullable().optional(),
  },
  begins: { count: 1, role: null, teamId: null, host: null },
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
    host: {
      kind: "choice or none",
      label: "An approval at the code host",
      options: () => [
        { value: "", label: "does not count" },
        { value: "counts", label: "counts too" },
        { value: "counts until new commits", label: "counts too, until new commits come" },
      ],
    },
  },
  words: ({ count, role, teamId, host = null }, { teams }) => {
    const { one: who, several: many } = WHO[role ?? "anybody"];
    const name = teams.find((t) => t.id === teamId)?.name ?? "somebody gone";
    return `approved by ${count === 1 ? `a ${who}` : `${count} ${many}`}${teamId ? ` of ${name}` : ""}${host ? HOST_WORDS[host] : ""}`;
  },
  unmet: ({ count, role, teamId, host = null }, context) => {
    const { before, teamsOf, teamName, nameOf, reviews = [] } = context;
    const atHost = host === null ? [] : reviews.filter(({ ofHead }) => host === "counts" || ofHead);
    // Nobody approves their own work.
    const counted = [...before.approvals, ...atHost].filter(
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
      `Ask ${from} other than ${before.assigneeId ? nameOf(before.assigneeId) : "the assignee"}: they press Approve on the item${host ? ", or approve its change at the code host" : ""}.`,
    );
  },
});
