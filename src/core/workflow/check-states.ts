import { counted } from "@/core/formats/counted";
import { cutText } from "@/core/formats/cut-text";
import { finding, repairable, type CheckSurroundings, type Finding } from "./finding";
import { reachableFrom, successors } from "./graph";
import { isReturn, statesInOrder, type Workflow } from "./workflow";
import type { State, StateId } from "./state";

/** What of the states deserves a look: work without a way back, waiting without an end, who works. */
export function stateFindings(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const next = successors(workflow);
  return workflow.states.flatMap((state) => [
    ...noWayBack(workflow, state, next),
    ...nobodyPulls(workflow, state, next),
    ...limitBelowTeam(state, around),
    ...tooOldFindings(state),
  ]);
}

/** All states that run and that no board shows, as one finding: one step puts them on. */
export function boardFindings(workflow: Workflow, { unshown }: CheckSurroundings): Finding[] {
  const hidden = workflow.states.filter((s) => s.id in unshown);
  if (hidden.length === 0) return [];
  const items = hidden.reduce((sum, s) => sum + unshown[s.id], 0);
  const states =
    hidden.length > 3 ? counted(hidden.length, "state") : hidden.map((s) => s.name).join(" and ");
  return [
    repairable(
      finding(
        items > 0 ? "weak" : "hint",
        "not on a board",
        `No board shows ${states}${items > 0 ? `, ${items === 1 ? "1 item is" : `${items} items are`} there` : ""}.`,
        { stateId: hidden[0].id },
      ),
      { kind: "show workflow", workflowId: workflow.id, words: "Put them on the board" },
    ),
  ];
}

type Successors = ReadonlyMap<StateId, ReadonlySet<StateId>>;

/** Work that fails has to go back to somewhere. */
function noWayBack(workflow: Workflow, state: State, next: Successors): Finding[] {
  const earlier = statesInOrder(workflow).filter((s) => s.position < state.position);
  const back = earlier.findLast((s) => s.kind === "working");
  const targets = [...(next.get(state.id) ?? [])];
  // Also where its stage begins later than that of the state it leads back to.
  const leadsBack = (to: StateId) =>
    isReturn(workflow, state.id, to) ||
    earlier.some((s) => s.id === to && s.stage !== state.stage && s.kind !== "unstarted");
  if (state.kind !== "working" || !back || targets.some(leadsBack)) return [];
  return [
    repairable(
      finding("weak", "no way back", `When work in ${state.name} fails, nothing leads back.`, {
        stateId: state.id,
      }),
      {
        kind: "add move",
        from: state.id,
        to: back.id,
        verb: cutText(`Send back to ${back.name}`, 60),
        words: `Add a move back to ${back.name}`,
      },
    ),
  ];
}

const isFinished = (state: State) => state.kind === "finished";

/** One wait may lead into another, as long as somebody pulls in the end. */
function nobodyPulls(workflow: Workflow, state: State, next: Successors): Finding[] {
  if (state.kind !== "waiting") return [];
  const kindOf = new Map(workflow.states.map((s) => [s.id, s.kind]));
  const waits = reachableFrom(
    new Map(
      [...next].map(([id, to]) => [id, kindOf.get(id) === "waiting" ? to : new Set<StateId>()]),
    ),
    [state.id],
  );
  const pulled = [...waits].some(
    (id) =>
      kindOf.get(id) === "working" ||
      (kindOf.get(id) === "finished" &&
        workflow.transitions.some((t) => t.to === id && t.from?.some((f) => waits.has(f)))),
  );
  if (pulled) return [];
  const found = finding(
    "weak",
    "nobody pulls",
    `Nobody pulls from ${state.name}: no move leads from it to a state where somebody works.`,
    { stateId: state.id },
  );
  const onward = statesInOrder(workflow).filter((s) => s.position > state.position);
  const puller = onward.find((s) => s.kind === "working") ?? onward.find(isFinished);
  return [
    repairable(
      found,
      puller
        ? {
            kind: "add move",
            from: state.id,
            to: puller.id,
            verb: cutText(`To ${puller.name}`, 60),
            words: `Add a move to ${puller.name}`,
          }
        : null,
    ),
  ];
}

/** A limit that leaves people of the state's team without work. */
function limitBelowTeam({ id, name, teamId, limit }: State, around: CheckSurroundings): Finding[] {
  const people = teamId === null ? 0 : (around.peopleOfTeam[teamId] ?? 0);
  const team = around.vocabulary.teams.find((t) => t.id === teamId)?.name;
  if (!team || !limit || limit.max === null || limit.max >= people) return [];
  // A sum of sizes says nothing about hands.
  if (limit.unit === "size") return [];
  return [
    repairable(
      finding(
        "hint",
        "limit below team",
        `${name} takes ${limit.max}, but ${people} people of ${team} work there: some will have nothing to do.`,
        { stateId: id },
      ),
      {
        kind: "change state",
        stateId: id,
        change: { limit: { ...limit, max: people } },
        words: `Take ${people}`,
      },
    ),
  ];
}

function tooOldFindings({ id, name, expectedDays, tooOldDays }: State): Finding[] {
  if (tooOldDays === null || expectedDays === null || tooOldDays >= expectedDays) return [];
  return [
    repairable(
      finding(
        "weak",
        "too old before expected",
        `In ${name} an item is too old after ${counted(tooOldDays, "day")}, before it is even expected to leave (${expectedDays}).`,
        { stateId: id },
      ),
      {
        kind: "change state",
        stateId: id,
        change: { tooOldDays: expectedDays },
        words: `Too old after ${counted(expectedDays, "day")}`,
      },
    ),
  ];
}
