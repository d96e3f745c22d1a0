"use client";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { addDays } from "@/core/calendar/month";
import { amountWords } from "@/core/time/amount";
import { mondayOf, weekNumber, type WeekView } from "@/core/time/week";
import { ItemPicker, type PickedItem } from "@/ui/item/item-picker";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { shortDate } from "@/ui/kit/time";
import { useWeek } from "./use-week";
import { WeekTable, type WeekLine } from "./week-table";

/** Somebody's week: on what their time went, day by day, against the days that they work. */
export function WeekScreen({ projectKey, initial }: { projectKey: string; initial: WeekView }) {
  const week = useWeek(projectKey, initial);
  const { view, monday } = week;
  const [added, setAdded] = useState<WeekLine[]>([]);
  const lines = linesOf(view, added);
  const spent = view.rows.flatMap(({ entries }) => entries);
  const minutes =
    spent.reduce((sum, one) => sum + one.minutes, 0) +
    Object.values(view.unseen).reduce((sum, one) => sum + one, 0);
  const room = view.days.reduce((sum, one) => sum + one.room, 0);
  return (
    <div className="flex h-full flex-col overflow-y-auto" aria-busy={week.waiting}>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">{view.mine ? "My time" : `Time of ${view.person.name}`}</h1>
        <span className="flex items-center gap-1">
          <Button small look="quiet" aria-label="The week before" onClick={() => week.go(-1)}>
            <ChevronLeft size={16} aria-hidden="true" />
          </Button>
          <span className="figures min-w-[190px] text-center">
            Week {weekNumber(monday)}, {shortDate(monday)} – {shortDate(addDays(monday, 6))}
          </span>
          <Button
            small
            look="quiet"
            aria-label="The week after"
            disabled={monday >= mondayOf(view.today)}
            onClick={() => week.go(1)}
          >
            <ChevronRight size={16} aria-hidden="true" />
          </Button>
        </span>
        {monday !== mondayOf(view.today) && (
          <Button small look="quiet" onClick={week.goToThis}>
            This week
          </Button>
        )}
        <p className="text-ink-soft">
          <b className="figures text-ink">{amountWords(minutes)}</b> of {amountWords(room)}
        </p>
        <span className="flex-1" />
        {view.people.length > 0 && (
          <Select
            plain
            label="Whose week"
            className="!w-auto"
            value={view.person.id}
            options={peopleIn(view)}
            onChange={week.look}
          />
        )}
      </div>
      <div className="px-4 py-3">
        <WeekTable week={week} lines={lines} />
        {view.mine && (
          <div className="mt-4 max-w-[460px]">
            <ItemPicker
              projectKey={projectKey}
              anywhere
              label="Record on another item"
              proposed={view.inHand}
              chosen={null}
              onChange={(item) => setAdded((now) => [...now, lineOf(item)])}
            />
          </div>
        )}
      </div>
    </div>
  );
}

const lineOf = ({ id, key, title }: PickedItem): WeekLine => ({
  itemId: id,
  key,
  title,
  left: null,
  entries: [],
});

/** What time stands on, then what is in hand, then what was added by hand. */
function linesOf(view: WeekView, added: readonly WeekLine[]): WeekLine[] {
  const inHand = view.inHand.map(({ id, ...rest }) => ({ itemId: id, entries: [], ...rest }));
  const lines = new Map<string, WeekLine>();
  for (const line of [...view.rows, ...inHand, ...(view.mine ? added : [])])
    if (!lines.has(line.itemId)) lines.set(line.itemId, line);
  return [...lines.values()];
}

function peopleIn({ people, person }: WeekView) {
  const known = people.some(({ id }) => id === person.id)
    ? people
    : [{ ...person, minutes: 0 }, ...people];
  return known.map(({ id, name, minutes }) => ({
    value: id,
    label: minutes > 0 ? `${name} · ${amountWords(minutes)}` : name,
  }));
}
