import type { DraftVisitor } from "@/core/workflow/draft-visit";
import { Initials } from "@/ui/kit/initials";
import { Button } from "@/ui/kit/button";
import type { Designer } from "./use-designer";

/** Who else is at this draft; a click goes where they are. */
export function Visitors({
  visitors,
  designer: { draft, select },
}: {
  visitors: readonly DraftVisitor[];
  designer: Designer;
}) {
  return (
    <ul aria-label="Also at this draft" className="flex items-center gap-1">
      {visitors.map((v) => {
        const state = draft.states.find((s) => s.id === v.chosenId);
        const move = draft.transitions.find((t) => t.id === v.chosenId);
        const where = state?.name ?? (move ? `“${move.verb}”` : null);
        const place = state ? "state" : "transition";
        return (
          <li key={v.personId} className="text-[12.5px]">
            <Button
              small
              look="quiet"
              disabled={where === null}
              title={where ? `Go to ${where}` : undefined}
              onClick={() => v.chosenId && select({ kind: place, id: v.chosenId })}
            >
              <Initials name={v.name} size={18} strong />
              <span className="max-w-36 truncate">{where ? `at ${where}` : "is here too"}</span>
            </Button>
          </li>
        );
      })}
    </ul>
  );
}
