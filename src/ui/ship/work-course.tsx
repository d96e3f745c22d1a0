import { stepsTaken, WORK_STEPS, type CodeWork } from "@/core/ship/item-code";

const STEP = 34;
const [HIGH, LOW] = [6, 14];
const HEIGHT = 20;
const xOf = (i: number): number => 6 + i * STEP;
const yOf = (i: number): number => (i % 2 === 0 ? LOW : HIGH);
const WIDTH = xOf(WORK_STEPS.length - 1) + 6;

/** How far a piece of work has come on its way to main: the stops that it has passed are filled. */
export function WorkCourse({ work }: { work: Pick<CodeWork, "change" | "commits"> }) {
  const taken = stepsTaken(work);
  const given = work.change?.status === "abandoned";
  const last = WORK_STEPS.findLastIndex((step) => taken.includes(step));
  const sentBack = work.change?.reviews.some(
    ({ verdict, ofOlder }) => verdict === "sent back" && !ofOlder,
  );
  const words = given ? "given up" : (taken.at(-1) ?? "begun");
  return (
    <span className="work-course" title={WORK_STEPS.join(", ")}>
      <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
        {WORK_STEPS.slice(1).map((step, i) => (
          <line
            key={step}
            x1={xOf(i)}
            y1={yOf(i)}
            x2={xOf(i + 1)}
            y2={yOf(i + 1)}
            data-passed={i < last || undefined}
          />
        ))}
        {WORK_STEPS.map((step, i) => (
          <circle
            key={step}
            cx={xOf(i)}
            cy={yOf(i)}
            r={i === last ? 4 : 3}
            data-passed={taken.includes(step) || undefined}
            data-back={(step === "read" && sentBack) || undefined}
          />
        ))}
      </svg>
      <span>{words}</span>
    </span>
  );
}
