import type { FollowUp } from "./follow-ups/table";
import type { Mover } from "./requirement";
import type { Requirement } from "./requirements/table";
import type { State } from "./state";
import type { Transition, Workflow } from "./workflow";

const isMover = (teamId: string) => (m: Mover) => m.kind === "team" && m.teamId === teamId;
const approves = (teamId: string) => (r: Requirement) =>
  r.kind === "approvals" && r.teamId === teamId;

/** Whether a follow-up gives the item to somebody of a team, or tells nobody but a team. */
function needsTeam(teamId: string, f: FollowUp): boolean {
  if (f.kind === "assign")
    return (f.to.kind === "least loaded" || f.to.kind === "in turn") && f.to.teamId === teamId;
  return (
    f.kind === "tell" && f.whom.every((told) => told.kind === "team" && told.teamId === teamId)
  );
}

/** The teams that a move names, in who may make it, who approves it and what follows. */
export function teamsOfMove({ who, requirements, followUps }: Transition): string[] {
  const named = [
    ...who.flatMap((m) => (m.kind === "team" ? [m.teamId] : [])),
    ...requirements.flatMap((r) => (r.kind === "approvals" && r.teamId ? [r.teamId] : [])),
    ...followUps.flatMap((f) => {
      if (f.kind === "assign") return "teamId" in f.to ? [f.to.teamId] : [];
      if (f.kind !== "tell") return [];
      return f.whom.flatMap((told) => (told.kind === "team" ? [told.teamId] : []));
    }),
  ];
  return [...new Set(named)];
}

/** Whether something of a move cannot be without somebody of a team. */
export function dependsOnTeam(move: Transition, teamId: string): boolean {
  return (
    (move.who.length > 0 && move.who.every(isMover(teamId))) ||
    move.requirements.some(approves(teamId)) ||
    move.followUps.some((f) => needsTeam(teamId, f))
  );
}

/** A workflow that names a team nowhere: its place is anybody's. */
export function withoutTeam(workflow: Workflow, teamId: string): Workflow {
  const ofState = (s: State): State => (s.teamId === teamId ? { ...s, teamId: null } : s);
  const ofMove = (t: Transition): Transition => ({
    ...t,
    who: t.who.filter((m) => !isMover(teamId)(m)),
    requirements: t.requirements.map((r) =>
      r.kind === "approvals" && r.teamId === teamId ? { ...r, teamId: null } : r,
    ),
    followUps: t.followUps.flatMap((f): FollowUp[] => {
      if (needsTeam(teamId, f)) return [];
      if (f.kind !== "tell") return [f];
      const whom = f.whom.filter((told) => told.kind !== "team" || told.teamId !== teamId);
      return [{ ...f, whom }];
    }),
  });
  return {
    ...workflow,
    states: workflow.states.map(ofState),
    transitions: workflow.transitions.map(ofMove),
  };
}
