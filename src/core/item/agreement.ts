import type { Instant } from "@/core/calendar/instant";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import type { Policy } from "@/core/workflow/state";
import type { ItemSnapshot } from "./fields";

/** What the process wants found true before an item moves on, and who has said yes to it. */
export interface Agreement {
  points: {
    id: string;
    text: string;
    /** "to leave Building" */ when: string;
    ticked: boolean;
    tickedBy: string | null;
  }[];
  /** Whether a move from here waits for approvals. */
  wantsApprovals: boolean;
  approvals: { id: string; name: string; at: Instant }[];
  approvedByMe: boolean;
  mayApprove: boolean;
}

/** The agreement of an item where it is now, as one person sees it. */
export function agreementOf(
  workflow: Workflow,
  item: ItemSnapshot,
  me: { personId: string; mayMove: boolean },
  nameOf: (personId: string) => string,
): Agreement {
  const here = stateOf(workflow, item.stateId);
  const onward = transitionsFrom(workflow, here.id);
  const entered = [...new Set(onward.map((t) => t.to))].map((id) => stateOf(workflow, id));
  const point = (when: string) => (policy: Policy) => {
    const tick = item.ticks.find((t) => t.policyId === policy.id);
    return {
      ...policy,
      when,
      ticked: tick !== undefined,
      tickedBy: tick?.byId ? nameOf(tick.byId) : null,
    };
  };
  return {
    points: [
      ...here.exitPolicies.map(point(`to leave ${here.name}`)),
      ...entered.flatMap((s) => s.entryPolicies.map(point(`to enter ${s.name}`))),
    ],
    wantsApprovals: onward.some((t) => t.requirements.some((r) => r.kind === "approvals")),
    approvals: item.approvals.map((a) => ({ id: a.byId, name: nameOf(a.byId), at: a.at })),
    approvedByMe: item.approvals.some((a) => a.byId === me.personId),
    mayApprove: me.mayMove && item.assigneeId !== me.personId,
  };
}
