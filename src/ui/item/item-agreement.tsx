"use client";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { ago } from "@/ui/kit/time";
import type { ItemHandle } from "./use-item";

/**
 * What has to be true before the item moves on, to be ticked here, and who has approved it. Nothing
 * where nothing is agreed.
 */
export function ItemAgreement({ handle }: { handle: ItemHandle }) {
  const { view, send } = handle;
  const { points, wantsApprovals, approvals, approvedByMe, mayApprove } = view.agreement;
  if (points.length === 0 && !wantsApprovals) return null;
  return (
    <section aria-label="Agreement" className="border-l-[3px] border-accent bg-sheet px-3 py-2">
      {points.length > 0 && <h3 className="text-[13px]">Agreed</h3>}
      <ul>
        {points.map((p) => (
          <li key={p.id}>
            <label className="flex items-start gap-2">
              <Check
                className="mt-1"
                disabled={!view.rights.move}
                checked={p.ticked}
                onChange={(on) => void send({ kind: "tick", policyId: p.id, on: on })}
              />
              <span>
                {p.text}{" "}
                <span className="text-[12.5px] text-ink-soft">
                  {p.tickedBy ? `ticked by ${p.tickedBy}` : p.when}
                </span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      {wantsApprovals && (
        <p className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
          {approvals.length === 0
            ? "Nobody has approved it yet."
            : `Approved by ${approvals.map((a) => `${a.name} ${ago(a.at, view.now)}`).join(", ")}.`}
          {approvedByMe ? (
            <Button small onClick={() => void send({ kind: "approve", on: false })}>
              Take my approval back
            </Button>
          ) : (
            mayApprove && (
              <Button
                look="accent"
                small
                onClick={() => void send({ kind: "approve", on: true }, "Approved.")}
              >
                Approve
              </Button>
            )
          )}
        </p>
      )}
    </section>
  );
}
