import { finding, moveAt, repairable, type CheckSurroundings, type Finding } from "./finding";
import { dependsOnTeam, teamsOfMove } from "./team-in-rules";
import { statesInOrder, type Workflow } from "./workflow";

/**
 * Teams that states and rules name and that nobody stands behind: they are gone, or nobody of them
 * is in the project. One cause each, wherever it shows.
 */
export function teamFindings(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const tell = (teamId: string, at: string, place: Finding["place"]) =>
    withoutPeople(teamId, at, place, around);
  return [
    ...statesInOrder(workflow).flatMap(({ id, name, teamId }) =>
      teamId ? tell(teamId, name, { stateId: id }) : [],
    ),
    ...workflow.transitions.flatMap((t) =>
      teamsOfMove(t)
        .filter((teamId) => isGone(teamId, around) || dependsOnTeam(t, teamId))
        .flatMap((teamId) => tell(teamId, moveAt(workflow, t), { transitionId: t.id })),
    ),
  ];
}

const isGone = (teamId: string, { vocabulary }: CheckSurroundings) =>
  !vocabulary.teams.some((team) => team.id === teamId);

function withoutPeople(
  teamId: string,
  at: string,
  place: Finding["place"],
  around: CheckSurroundings,
): Finding[] {
  const gone = isGone(teamId, around);
  if (!gone && (around.peopleOfTeam[teamId] ?? 0) > 0) return [];
  const team = around.vocabulary.teams.find((t) => t.id === teamId)?.name ?? "the team";
  const sentence = gone
    ? (places: string) => `The team that is named at ${places} does not exist any more.`
    : (places: string) => `${team} is named at ${places}, but nobody of it is in this project.`;
  const code = gone ? "team gone" : "team without people";
  const found = repairable(finding("weak", code, sentence(at), place), {
    kind: "take team off",
    teamId,
    words: `Take ${team} out of it`,
  });
  return [{ ...found, cause: { of: `${code} ${teamId}`, at, sentence } }];
}
