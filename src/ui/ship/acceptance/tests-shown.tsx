import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { TestShown } from "@/core/ship/acceptance/shown-item";
import { shortDate } from "@/ui/kit/time";
import { AnsweredMark } from "./answered-mark";

/** What was tested, with what result. */
export function TestsShown({ tested, zone }: { tested: readonly TestShown[]; zone: string }) {
  if (tested.length === 0) return null;
  return (
    <div className="mt-3">
      <p className="text-[13px] font-semibold">What was tested</p>
      <ul className="text-[14px]">
        {tested.map(({ title, passed, at, build, changedSince }) => (
          <li key={title} className="flex items-start gap-1.5">
            <span className="pt-1">
              <AnsweredMark
                of={passed ? (changedSince ? "changed since" : "accepted") : "missing"}
              />
            </span>
            <span>
              {title}{" "}
              <span className="text-[13px] text-ink-soft">
                {passed ? "passed" : "failed"} on {shortDate(isoDate(dayNumber(at, zone)))}
                {build && `, build ${build}`}
                {changedSince && ", before the last change"}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
