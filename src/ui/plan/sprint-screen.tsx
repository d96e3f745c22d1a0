"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { parseIsoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { SPRINT_UNITS, type SprintUnit } from "@/core/plan/sprint-ledger";
import type { SprintView } from "@/core/plan/sprint-view";
import { ChartFrame, Nothing } from "@/ui/flow/chart-frame";
import { Button } from "@/ui/kit/button";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Select } from "@/ui/kit/select";
import { ChoiceTabs } from "@/ui/kit/choice-tabs";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import { BurnUp, type BurnUpOf } from "./burn-up";
import { BurnChart } from "./burn-chart";
import { EndSprint } from "./end-sprint";
import { ScopeChanges } from "./scope-changes";
import { SprintFigures } from "./sprint-figures";
import { SprintLedger } from "./sprint-ledger";
import { useSprint, type SprintHandle } from "./use-sprint";
import { VelocityChart, velocityWords } from "./velocity-chart";

/** A sprint as it goes, or as it went: what is left, by what that changed, and what it came to. */
export function SprintScreen({ initial }: { initial: SprintView }) {
  const handle = useSprint(initial);
  const { view } = handle;
  const [unit, setUnit] = useState<SprintUnit>("points");
  const [drawn, setDrawn] = useState<(typeof DRAWN)[number]>("left");
  return (
    <div className="flex h-full flex-col overflow-y-auto">
      <SprintHead handle={handle} />
      <div className="flex flex-col gap-4 px-4 py-3">
        <SprintFigures view={view} />
        <div className="grid gap-4 lg:grid-cols-2">
          <ChartFrame
            title={drawn === "left" ? "What is left" : "What is done"}
            says={
              <span className="flex items-center gap-2">
                {leftWords(view, unit)}
                <ChoiceTabs label="Drawn as" values={DRAWN} chosen={drawn} onChoose={setDrawn} />
                <ChoiceTabs
                  label="Counted in"
                  values={SPRINT_UNITS}
                  chosen={unit}
                  onChoose={setUnit}
                />
              </span>
            }
          >
            {view.begins && drawn === "done" ? (
              <BurnUp of={doneOf(view)} unit={unit} />
            ) : view.begins ? (
              <BurnChart view={view} unit={unit} />
            ) : (
              <Nothing>It has not begun: what is left is counted from its start on.</Nothing>
            )}
          </ChartFrame>
          <ChartFrame title="Velocity" says={velocityWords(view)}>
            {view.past.length > 0 ? (
              <VelocityChart view={view} />
            ) : (
              <Nothing>No sprint has ended before this one.</Nothing>
            )}
          </ChartFrame>
        </div>
        <SprintLedger view={view} unit={unit} />
        <ScopeChanges view={view} />
      </div>
    </div>
  );
}

/** A sprint is drawn by what is left in it, or by what is done, with its scope apart. */
const DRAWN = ["left", "done"] as const;

const doneOf = ({ days, sprint }: SprintView): BurnUpOf<SprintUnit> => ({
  days: days.flatMap(({ day, scope, left }) =>
    scope === null || left === null
      ? []
      : [
          {
            day,
            scope,
            done: {
              points: scope.points - left.points,
              items: scope.items - left.items,
              // What was worked, whether that finished anything or not.
              hours: Math.round((scope.hours - left.hours) * 10) / 10,
            },
          },
        ],
  ),
  dueOn: sprint.endsOn,
  until: null,
});

function leftWords({ days, begins }: SprintView, unit: SprintUnit): string {
  if (!begins) return "not begun";
  const last = days.findLast(({ left }) => left !== null);
  const now = last?.left?.[unit] ?? begins[unit];
  const even = last?.even[unit] ?? begins[unit];
  const told = `${now} ${unit} left, ${begins[unit]} at its start`;
  return `${told}; falling evenly it would be ${Math.round(even * 10) / 10}`;
}

const STANDING = {
  coming: "to come",
  running: "runs",
  over: "over, not ended",
  ended: "ended",
} as const;

function SprintHead({ handle }: { handle: SprintHandle }) {
  const { view, act } = handle;
  const router = useRouter();
  const [ending, setEnding] = useState(false);
  const { sprint, sprints, project, rights } = view;
  const place = (id: string) => `/p/${project.key}/plan/sprints?sprint=${encodeURIComponent(id)}`;
  const doing = (kind: "start" | "bring back", done: string) =>
    void act({ kind }).then(() => tellDone(done), tellProblem);
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">{sprint.name}</h1>
      <p className="text-ink-soft">
        {shortDate(sprint.startsOn)} – {shortDate(sprint.endsOn)} ·{" "}
        <b className={sprint.standing === "over" ? "text-alarm" : "text-ink"}>
          {STANDING[sprint.standing]}
          {sprint.standing === "running" && `, ${daysLeft(view)}`}
        </b>
      </p>
      <p className={sprint.goal ? "italic" : "text-signal-ink"}>{sprint.goal || "no goal yet"}</p>
      <span className="flex-1" />
      <Select
        label="Another sprint"
        className="!w-auto"
        value={sprint.id}
        options={sprints.toReversed().map(({ id, name, standing }) => ({
          value: id,
          label: `${name}, ${STANDING[standing]}`,
        }))}
        onChange={(id) => router.push(place(id))}
      />
      {rights.plan && sprint.standing === "coming" && (
        <Button look="accent" onClick={() => doing("start", `${sprint.name} runs.`)}>
          Start {sprint.name}
        </Button>
      )}
      {rights.plan && (sprint.standing === "running" || sprint.standing === "over") && (
        <Button look="accent" onClick={() => setEnding(true)}>
          End {sprint.name}
        </Button>
      )}
      {rights.plan && sprint.standing === "ended" && (
        <Button look="quiet" onClick={() => doing("bring back", `${sprint.name} is open again.`)}>
          Bring it back
        </Button>
      )}
      <Sheet
        open={ending}
        onClose={() => setEnding(false)}
        title={`${sprint.name} ends`}
        className="!w-[640px]"
      >
        <EndSprint handle={handle} onDone={() => setEnding(false)} />
      </Sheet>
    </div>
  );
}

function daysLeft({ days, sprint }: SprintView): string {
  const today = days.findLast(({ left }) => left !== null)?.day ?? sprint.startsOn;
  const left = days.filter(({ day, works }) => works && day > today).length;
  const last = parseIsoDate(sprint.endsOn) - parseIsoDate(today);
  return left === 0 && last <= 0 ? "its last day" : `${counted(left, "working day")} left`;
}
