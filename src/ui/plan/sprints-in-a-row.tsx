"use client";
import { Plus } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { planContract } from "@/core/plan/contract";
import { lengthWords } from "@/core/plan/plan-settings";
import type { PlanningView } from "@/core/plan/planning-view";
import { MOST_IN_A_ROW, sprintsInARow } from "@/core/plan/sprint";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Popover } from "@/ui/kit/popover";
import { ask } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";

/** Makes the next sprints, one behind the other, each as long as the project's usually are. */
export function SprintsInARow({ view, onMade }: { view: PlanningView; onMade: () => void }) {
  const [open, setOpen] = useState(false);
  const [count, setCount] = useState("1");
  const [days, setDays] = useState(String(view.settings.sprintDays));
  const [ids] = useState(() => Array.from({ length: MOST_IN_A_ROW }, () => newId()));
  const wanted = Math.min(MOST_IN_A_ROW, Math.max(1, Math.floor(Number(count)) || 1));
  const today = isoDate(dayNumber(view.now, view.project.zone));
  const made = sprintsInARow(view.last ? [view.last] : [], today, {
    days: Math.max(1, Math.floor(Number(days)) || 1),
    ids: ids.slice(0, wanted),
  });
  const params = { key: view.project.key };
  const make = async () => {
    try {
      await ask(planContract.change, { params, body: { kind: "sprints", sprints: made } });
      tellDone(`${counted(made.length, "sprint")} made.`, async () => {
        const gone = made.map(({ id }) => id);
        await ask(planContract.change, { params, body: { kind: "remove sprints", ids: gone } });
        onMade();
      });
      setOpen(false);
      onMade();
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="New sprints"
      align="end"
      className="w-[300px]"
      trigger={
        <Button>
          <Plus size={14} aria-hidden="true" />
          New sprints
        </Button>
      }
    >
      <form
        aria-label="New sprints"
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <div className="grid grid-cols-2 gap-2">
          <Field label="How many">
            <TextInput
              type="number"
              min={1}
              max={MOST_IN_A_ROW}
              required
              value={count}
              onChange={(event) => setCount(event.target.value)}
            />
          </Field>
          <Field label="Days each">
            <TextInput
              type="number"
              min={1}
              max={98}
              required
              value={days}
              onChange={(event) => setDays(event.target.value)}
            />
          </Field>
        </div>
        <ul className="max-h-[180px] overflow-y-auto text-[13px] text-ink-soft">
          {made.map(({ id, name, startsOn, endsOn }) => (
            <li key={id}>
              <b className="text-ink">{name}</b>, {shortDate(startsOn)} – {shortDate(endsOn)}
            </li>
          ))}
        </ul>
        <p className="text-[12.5px] text-ink-soft">
          {lengthWords(made.length * Math.max(1, Number(days) || 1))} in all. Each wants a goal: it
          stands missing until it has one.
        </p>
        <FormFooter send={`Make ${counted(wanted, "sprint")}`} onLeave={() => setOpen(false)} />
      </form>
    </Popover>
  );
}
