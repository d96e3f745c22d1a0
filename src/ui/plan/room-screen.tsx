"use client";
import {
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { PersonRoom, RoomView } from "@/core/plan/room-view";
import { weekNumber } from "@/core/time/week";
import { peopleByTrade } from "@/core/people/trade";
import { Dragging } from "@/ui/kit/dragging";
import { Select } from "@/ui/kit/select";
import { shortDate } from "@/ui/kit/time";
import { PersonRow } from "./room-person";
import { useRoom } from "./use-room";

/** A pointer must travel this far before a click becomes a drag. */
const DRAG_FROM_PX = 4;

/** The next weeks of each of a project's people: who has too much, who has nothing, who is away. */
export function RoomScreen({ initial }: { initial: RoomView }) {
  const handle = useRoom(initial);
  const { view, give } = handle;
  const [open, setOpen] = useState<ReadonlySet<string>>(
    () => new Set(initial.people.filter(hasTooMuch).map(({ id }) => id)),
  );
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_FROM_PX } }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const item = view.people.flatMap(({ items }) => items).find(({ id }) => id === active.id);
    const to = view.people.find(({ id }) => id === over?.id);
    if (item && to && !to.items.some(({ id }) => id === item.id)) void give(item, to);
  };
  // Who has too much stands first; the order stays while somebody looks.
  const [order] = useState(() => inOrder(initial.people).map(({ id }) => id));
  const [trade, setTrade] = useState("");
  const trades = peopleByTrade(view.people);
  const meant = trades.find((one) => one.trade === trade);
  const people = view.people
    .filter(({ id }) => !meant || meant.ids.includes(id))
    .toSorted((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
  const toggle = (id: string) =>
    setOpen((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">People’s room</h1>
        <p className="text-ink-soft">{summary(people)}</p>
        <span className="flex-1" />
        {trades.length > 0 && (
          <Select
            label="What they are good for"
            className="!w-auto"
            value={meant ? trade : ""}
            options={[
              { value: "", label: "everybody" },
              ...trades.map((one) => ({
                value: one.trade,
                label: `${one.trade} (${one.ids.length})`,
              })),
            ]}
            onChange={setTrade}
          />
        )}
        <p className="text-[12.5px] text-ink-soft">
          hours of all their projects, counts also what you may not see
        </p>
      </div>
      <Dragging id="room" sensors={sensors} collisionDetection={pointerWithin} onDragEnd={drop}>
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="room-table">
            <thead>
              <tr>
                <th scope="col">Who</th>
                {view.mondays.map((monday, i) => (
                  <th key={monday} scope="col">
                    {i === 0 ? "This week" : `Week ${weekNumber(monday)}`}
                    <span>{shortDate(monday)}</span>
                  </th>
                ))}
              </tr>
            </thead>
            {people.map((person) => (
              <PersonRow
                key={person.id}
                person={person}
                handle={handle}
                open={open.has(person.id)}
                onToggle={() => toggle(person.id)}
              />
            ))}
          </table>
          {view.people.length === 0 && (
            <p className="py-10 text-center text-ink-soft">
              Nobody works in this project yet. Its people are named in Design.
            </p>
          )}
        </div>
      </Dragging>
    </div>
  );
}

/** So many weeks say who has too much and who has nothing. */
const SOON = 2;

const soon = ({ weeks }: PersonRoom) => ({
  room: weeks.slice(0, SOON).reduce((sum, { room }) => sum + room, 0),
  load: weeks.slice(0, SOON).reduce((sum, { load }) => sum + load, 0),
});

const hasTooMuch = (person: PersonRoom): boolean => {
  const { room, load } = soon(person);
  return load > room;
};

const inOrder = (people: readonly PersonRoom[]): PersonRoom[] =>
  people.toSorted(
    (a, b) => Number(hasTooMuch(b)) - Number(hasTooMuch(a)) || soon(b).load - soon(a).load,
  );

function summary(people: readonly PersonRoom[]): string {
  const over = people.filter(hasTooMuch).length;
  const idle = people.filter((one) => soon(one).load === 0 && soon(one).room > 0).length;
  const away = people.filter((one) => soon(one).room === 0).length;
  const said = [
    over > 0 ? `${counted(over, "person has", "people have")} too much in two weeks` : "",
    idle > 0 ? `${idle} nothing` : "",
    away > 0 ? `${away} away` : "",
  ].filter(Boolean);
  return said.length > 0 ? said.join(", ") : "nobody has too much in the next two weeks";
}
