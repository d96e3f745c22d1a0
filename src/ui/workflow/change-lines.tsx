import type { Difference } from "@/core/workflow/difference";

const MARK = { added: "+", removed: "−", changed: "~" } as const;

/** What is different in a workflow, a line each. */
export function ChangeLines({ changes }: { changes: readonly Difference[] }) {
  return (
    <ul className="text-[13px]" aria-label="What is different">
      {changes.map((c, i) => (
        <li key={i} className="flex gap-2 border-t border-line py-1">
          <span className="key w-3 shrink-0 font-bold" aria-label={c.kind}>
            {MARK[c.kind]}
          </span>
          <span className="min-w-0">{c.sentence}</span>
        </li>
      ))}
    </ul>
  );
}
