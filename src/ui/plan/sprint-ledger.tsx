"use client";
import { SPRINT_TERMS, type SprintUnit } from "@/core/plan/sprint-ledger";
import type { SprintView, TermTotal } from "@/core/plan/sprint-view";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";

/** Day by day by what what is left changed; behind each figure are its items. */
export function SprintLedger({ view, unit }: { view: SprintView; unit: SprintUnit }) {
  const { openBehind } = usePanel();
  const days = view.days.filter(({ left }) => left !== null);
  if (days.length === 0 || !view.begins) return null;
  return (
    <section aria-label="Day by day" className="sheet overflow-x-auto p-3">
      <h2 className="text-[15px]">Day by day, in {unit}</h2>
      <table className="plan-ledger">
        <thead>
          <tr>
            <th scope="col">Day</th>
            {SPRINT_TERMS.map((term) => (
              <th key={term} scope="col">
                {unit === "hours" && term === "re-estimated" ? "worked, or re-estimated" : term}
              </th>
            ))}
            <th scope="col">left</th>
            <th scope="col">in all</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">at its start</th>
            {SPRINT_TERMS.map((term) => (
              <td key={term} />
            ))}
            <td>{view.begins[unit]}</td>
            <td />
          </tr>
          {days.map(({ day, works, left, scope, terms, hourTerms }) => (
            <tr key={day} data-free={works ? undefined : ""}>
              <th scope="row">{shortDate(day)}</th>
              {SPRINT_TERMS.map((term) => (
                <td key={term}>
                  <Term
                    of={(unit === "hours" ? hourTerms : terms)[term]}
                    unit={unit}
                    onOpen={(of) => openBehind({ title: `${term}, ${shortDate(day)}`, ...of })}
                  />
                </td>
              ))}
              <td>
                <b>{left![unit]}</b>
              </td>
              <td className="text-ink-soft">{scope![unit]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Term({
  of,
  unit,
  onOpen,
}: {
  of: TermTotal | undefined;
  unit: SprintUnit;
  onOpen: (of: Pick<TermTotal, "ids" | "unseen">) => void;
}) {
  if (!of) return null;
  const change = of.change[unit] ?? 0;
  return (
    <button
      type="button"
      className="min-h-6 min-w-6 tabular-nums hover:underline"
      onClick={() => onOpen({ ids: of.ids, unseen: of.unseen })}
    >
      {change > 0 ? `+${change}` : change === 0 ? "0" : `−${-change}`}
    </button>
  );
}
