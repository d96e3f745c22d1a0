"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { planContract } from "@/core/plan/contract";
import type { PersonRoom } from "@/core/plan/room-view";
import { TextButton } from "@/ui/kit/button";
import { problemOf, queryOf } from "@/ui/kit/request";
import { PlanCard } from "./plan-card";

/** The weeks that say whether somebody has room for one thing more. */
const NEXT_WEEKS = 2;

const hours = (n: number): string => `${Math.round(n)} h`;

/** The people of a project with what they have and their room; rows are dropped onto them too. */
export function PeoplePlaces({ projectKey }: { projectKey: string }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useQuery({
    ...queryOf(planContract.room, { params: { key: projectKey } }),
    enabled: open,
  });
  return (
    <section aria-label="People">
      <div className="flex items-baseline">
        <h2 className="flex-1 text-[15px]">People</h2>
        <TextButton className="text-[13px]" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "fold" : "show their room"}
        </TextButton>
      </div>
      {!open && (
        <p className="text-[13px] text-ink-soft">A row is dropped onto somebody to give it them.</p>
      )}
      {open && error && <p className="text-[13px] text-alarm">{problemOf(error).sentence}</p>}
      {open && !data && !error && (
        <p className="text-[13px] text-ink-soft">Reckoning their weeks…</p>
      )}
      {open && data && (
        <ul className="mt-1">
          {data.people.map((person) => (
            <PersonPlace key={person.id} person={person} />
          ))}
        </ul>
      )}
    </section>
  );
}

function PersonPlace({ person: { id, name, weeks, items, unseen } }: { person: PersonRoom }) {
  const next = weeks.slice(0, NEXT_WEEKS);
  const room = next.reduce((sum, week) => sum + week.room, 0);
  const load = next.reduce((sum, week) => sum + week.load, 0);
  const over = load - room;
  const away = next.reduce((sum, week) => sum + week.off, 0);
  return (
    <PlanCard
      kind="person"
      id={id}
      name={name}
      aside={counted(items.length + unseen, "item")}
      done={Math.min(load, room)}
      of={room}
    >
      <p className={`text-[12.5px] ${over > 0 ? "font-semibold text-alarm" : "text-ink-soft"}`}>
        {over > 0
          ? `${hours(over)} too much in two weeks`
          : `${hours(room - load)} of ${hours(room)} free in two weeks`}
        {away > 0 && ` · ${counted(away, "day")} away`}
      </p>
    </PlanCard>
  );
}
