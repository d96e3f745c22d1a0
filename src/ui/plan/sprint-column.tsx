"use client";
import type { ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import { movedOn, planConflicts, type PlanConflict } from "@/core/plan/dependencies";
import type { PlanItem, PlanSprint } from "@/core/plan/planning-view";
import { sprintLoad } from "@/core/plan/sprint-load";
import { hoursAgainstRoom, loadInDays, pushedOn } from "@/core/plan/room";
import { TextButton } from "@/ui/kit/button";
import { shortDate } from "@/ui/kit/time";
import { PlanColumn, type PlanRows } from "./plan-column";
import { RoomBar } from "./room-bar";
import type { PlanningHandle } from "./use-planning";

/** A sprint of the plan, with its load against its room, in points and by person. */
export function SprintColumn({
  handle,
  sprint,
  rows,
}: {
  handle: PlanningHandle;
  sprint: PlanSprint;
  rows: PlanRows;
}) {
  const { items } = handle;
  const own = items.filter(({ sprintId }) => sprintId === sprint.id);
  const conflicts = conflictsOf(handle).filter(({ item }) => own.some(({ id }) => id === item.id));
  const running = sprint.standing === "running";
  return (
    <PlanColumn
      id={sprint.id}
      title={sprint.name}
      aside={`${shortDate(sprint.startsOn)} – ${shortDate(sprint.endsOn)}`}
      items={own}
      rows={rows}
      running={running}
      broken={new Set(conflicts.map(({ item }) => item.id))}
      empty="Nothing is planned into it yet. Drag rows here."
      foot={<Conflicts handle={handle} conflicts={conflicts} />}
      laneAside={({ key, items: laned }) => laneWords(handle, { sprint, personId: key, laned })}
    >
      <p className={`text-[13px] ${sprint.goal ? "italic" : "text-signal-ink"}`}>
        {sprint.goal || "no goal yet"}
      </p>
      <Points handle={handle} sprint={sprint} own={own} />
      <People handle={handle} sprint={sprint} own={own} />
    </PlanColumn>
  );
}

/** How much of a person's room in a sprint what they have in it takes; nothing for other lanes. */
function laneWords(
  { view }: PlanningHandle,
  { sprint, personId, laned }: { sprint: PlanSprint; personId: string | null; laned: PlanItem[] },
): ReactNode {
  const person = view.people.find(({ id }) => id === personId);
  const own = sprint.people.find(({ id }) => id === personId);
  if (!person || !own) return undefined;
  const { hoursADay, focus } = person;
  const load = loadInDays(
    laned.map(({ hoursLeft, estimate }) => ({ hoursLeft, points: estimate })),
    { hoursADay, perPoint: view.perPoint },
  );
  const [days, room] = [load.days, own.days * focus.share].map((of) => Math.round(of * 10) / 10);
  return (
    <span className={days > room ? "font-semibold text-alarm" : ""}>
      {load.about && "about "}
      {days} of {room} d
    </span>
  );
}

interface Of {
  handle: PlanningHandle;
  sprint: PlanSprint;
  own: readonly PlanItem[];
}

/** Its points against what it can take, and what to push on where that is too much. */
function Points({ handle, sprint, own }: Of) {
  const { view, move } = handle;
  const { points: load, room, over } = sprintLoad({ planned: [...own] }, sprint);
  const unsized = own.filter(({ estimate }) => estimate === null).length;
  const at = view.sprints.findIndex(({ id }) => id === sprint.id);
  const next = view.sprints[at + 1];
  const pushed = pushedOn(
    own.map((item) => ({ ...item, points: item.estimate, begun: item.stateKind !== "unstarted" })),
    over,
  );
  const points = pushed.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  return (
    <div data-load={load} data-room={room ?? undefined}>
      <RoomBar load={load} room={room} />
      <p className="text-[12.5px]">
        <b className={over > 0 ? "text-alarm" : ""}>
          {room === null ? counted(load, "point") : `${load} of ${counted(room, "point")}`}
          {over > 0 && `, ${over} over`}
        </b>
        {unsized > 0 && ` · no size on ${unsized}`}
        {sprint.holidays > 0 && ` · ${counted(sprint.holidays, "holiday")}`}
        {sprint.unseen.items > 0 && ` · counts also ${sprint.unseen.items} you do not see`}
      </p>
      {over > 0 && next && pushed.length > 0 && view.rights.plan && (
        <TextButton className="text-[12.5px]" onClick={() => void move(pushed, next.id)}>
          Push {pushed.map(({ key }) => key).join(", ")} on to {next.name} (
          {counted(points, "point")})
        </TextButton>
      )}
    </div>
  );
}

const FOCUS_WORDS = {
  person: "by the time that they recorded on what was in sprints",
  team: "by the time that the team recorded on what was in sprints",
  assumed: "as nobody recorded time yet",
};

/** What each person has in it against the days at work that go into what is planned. */
function People({ handle: { view }, sprint, own }: Of) {
  const { perPoint } = view;
  const told = sprint.people.map(({ id, days, off }) => {
    const person = view.people.find((one) => one.id === id)!;
    const { hoursADay, focus } = person;
    const mine = own
      .filter(({ assigneeId }) => assigneeId === id)
      .map(({ hoursLeft, estimate }) => ({ hoursLeft, points: estimate }));
    const load = loadInDays(mine, { hoursADay, perPoint });
    const room = Math.round(days * focus.share * 10) / 10;
    return { person, days, room, off, has: mine.length, load };
  });
  const hours = hoursAgainstRoom(
    own.map(({ hoursLeft, estimate }) => ({ hoursLeft, points: estimate })),
    told.map(({ person: { hoursADay, focus }, days }) => ({ days, hoursADay, focus })),
    perPoint,
  );
  const shown = told.filter(({ has, off }) => has > 0 || off > 0);
  const free = told.length - shown.length;
  return (
    <ul className="plan-people" aria-label="Room of its people">
      {own.length > 0 && (
        <li className="!block" data-over={hours.load > hours.room || undefined}>
          {hours.about && "about "}
          <span className={hours.load > hours.room ? "font-semibold text-alarm" : ""}>
            {hours.load.toLocaleString("en")} of {hours.room.toLocaleString("en")} h
          </span>{" "}
          <span className="text-ink-soft">of its people</span>
        </li>
      )}
      {shown.map(({ person, days, room, off, load }) => {
        const rounded = Math.round(load.days * 10) / 10;
        const over = rounded > room;
        const share = `${Math.round(person.focus.share * 100)} % of ${counted(days, "day")}`;
        return (
          <li
            key={person.id}
            data-over={over || undefined}
            title={`Room: ${share} at work, ${FOCUS_WORDS[person.focus.by]}`}
          >
            <span className="truncate">{person.name}</span>
            <RoomBar load={load.days} room={room} />
            <span className={over ? "font-semibold text-alarm" : ""}>
              {load.about && "about "}
              {rounded} of {room} d{off > 0 && <span className="text-ink-soft"> · away {off}</span>}
            </span>
          </li>
        );
      })}
      {free > 0 && (
        <li className="!block text-ink-soft">
          {counted(free, "person", "people")} with nothing in it
        </li>
      )}
    </ul>
  );
}

const placed = ({ view, items }: PlanningHandle) => {
  const places = new Map(view.sprints.map(({ id }, i) => [id, i]));
  return items.map((item) => ({
    ...item,
    place: item.sprintId === null ? null : (places.get(item.sprintId) ?? null),
  }));
};

const conflictsOf = (handle: PlanningHandle): PlanConflict[] =>
  planConflicts(placed(handle), handle.view.waits);

/** Dependencies that do not hold as things are planned, and what would mend them. */
function Conflicts({
  handle,
  conflicts,
}: {
  handle: PlanningHandle;
  conflicts: readonly PlanConflict[];
}) {
  if (conflicts.length === 0) return null;
  return (
    <ul className="mt-2 flex flex-col gap-1 text-[13px]" aria-label="Dependencies that do not hold">
      {conflicts.map((conflict) => (
        <li key={`${conflict.item.id} ${conflict.waitsFor.id}`}>
          <b className={conflict.kind === "before" ? "text-alarm" : "text-signal-ink"}>
            {conflictWords(conflict)}
          </b>{" "}
          <Mend handle={handle} conflict={conflict} />
        </li>
      ))}
    </ul>
  );
}

function conflictWords({ item, waitsFor, kind }: PlanConflict): string {
  if (kind === "together")
    return `${item.key} waits for ${waitsFor.key} in the same sprint, by another team.`;
  return waitsFor.place === null
    ? `${item.key} waits for ${waitsFor.key}, which is in no sprint.`
    : `${item.key} stands before ${waitsFor.key}, which it waits for.`;
}

function Mend({
  handle,
  conflict: { item, waitsFor, kind },
}: {
  handle: PlanningHandle;
  conflict: PlanConflict;
}) {
  const { view, items, move } = handle;
  if (!view.rights.plan) return null;
  const byId = new Map(items.map((one) => [one.id, one]));
  if (waitsFor.place === null) {
    const sprint = view.sprints[item.place!];
    return (
      <TextButton onClick={() => void move([byId.get(waitsFor.id)!], sprint.id)}>
        Plan {waitsFor.key} into {sprint.name} too
      </TextButton>
    );
  }
  const place = waitsFor.place + (kind === "together" ? 1 : 0);
  const sprint = view.sprints[place];
  if (!sprint) return null;
  const moved = movedOn(placed(handle), view.waits, { id: item.id, place }).map((one) =>
    byId.get(one.item.id)!,
  );
  const points = moved.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  return (
    <TextButton onClick={() => void move(moved, sprint.id)}>
      Move {item.key}
      {moved.length > 1 && " and what follows it"} to {sprint.name} ({counted(moved.length, "item")}
      , {counted(points, "point")})
    </TextButton>
  );
}
