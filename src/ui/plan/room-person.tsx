"use client";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { ChevronRight, Ellipsis } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { tradesLine } from "@/core/people/trade";
import type { HeldItem, PersonRoom, WeekRoom } from "@/core/plan/room-view";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { RoomBar } from "./room-bar";
import { Takers } from "./takers";
import type { RoomHandle } from "./use-room";

const FOCUS_WORDS = {
  person: "by what they recorded",
  team: "by what the team recorded",
  assumed: "assumed",
};

/** The weeks of somebody, and below them what they have, to be given to others. */
export function PersonRow({
  person,
  handle,
  open,
  onToggle,
}: {
  person: PersonRoom;
  handle: RoomHandle;
  open: boolean;
  onToggle: () => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: person.id });
  const { name, weeks, items, unseen, focus } = person;
  const has = items.length + unseen;
  return (
    <tbody ref={setNodeRef} data-person={name} data-over={isOver || undefined}>
      <tr>
        <th scope="row">
          <button type="button" aria-expanded={open} onClick={onToggle}>
            <ChevronRight size={14} aria-hidden="true" className={open ? "rotate-90" : undefined} />
            <Initials name={name} size={22} />
            <span className="min-w-0 flex-1 truncate">{name}</span>
            <span className="text-[12px] font-normal text-ink-soft">
              {has === 0 ? "nothing" : counted(has, "item")}
            </span>
          </button>
        </th>
        {weeks.map((week) => (
          <WeekCell key={week.monday} name={name} week={week} />
        ))}
      </tr>
      {open && (
        <tr>
          <td colSpan={weeks.length + 1} className="room-held">
            <p className="text-[12px] text-ink-soft">
              {person.trades.length > 0 && <b>{tradesLine(person.trades)}. </b>}
              {Math.round(focus.share * 100)} % of {person.hoursADay} h a day go into what is
              planned, {FOCUS_WORDS[focus.by]}
              {unseen > 0 && `; ${unseen} more outside your view`}
            </p>
            <ul aria-label={`What ${name} has`}>
              {items.map((item) => (
                <Held key={item.id} item={item} handle={handle} holder={person} />
              ))}
            </ul>
            {items.length === 0 && (
              <p className="text-[12.5px] text-ink-soft">Drop something here to give it to them.</p>
            )}
          </td>
        </tr>
      )}
    </tbody>
  );
}

function WeekCell({
  name,
  week: { monday, room, load, away, off, ids, unseen },
}: {
  name: string;
  week: WeekRoom;
}) {
  const { openBehind } = usePanel();
  const over = load > room;
  if (away && load === 0)
    return (
      <td className="room-week" data-away="">
        {off > 0 ? "away" : "no work"}
      </td>
    );
  return (
    <td className="room-week" data-over={over || undefined} data-idle={load === 0 || undefined}>
      <button
        type="button"
        disabled={ids.length + unseen === 0}
        onClick={() => openBehind({ title: `${name}, week of ${shortDate(monday)}`, ids, unseen })}
      >
        <RoomBar load={load} room={room} />
        <span className="block">
          {load === 0 ? `${round(room)} h free` : `${round(load)} of ${round(room)} h`}
          {off > 0 && <i> · away&nbsp;{off}</i>}
        </span>
      </button>
    </td>
  );
}

const round = (hours: number): string =>
  (hours < 10 ? Math.round(hours * 10) / 10 : Math.round(hours)).toLocaleString("en");

function Held({
  item,
  handle,
  holder,
}: {
  item: HeldItem;
  handle: RoomHandle;
  holder: PersonRoom;
}) {
  const { view, give } = handle;
  const { openItem } = usePanel();
  const [asking, setAsking] = useState(false);
  const movable = view.rights.edit && item.own;
  const { setNodeRef, listeners, transform } = useDraggable({ id: item.id, disabled: !movable });
  return (
    <li
      ref={setNodeRef}
      className="room-item"
      data-key={item.key}
      data-movable={movable || undefined}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 }
          : undefined
      }
      {...listeners}
    >
      <TypeGlyph typeId={item.typeId} />
      <button
        type="button"
        className="flex min-h-6 min-w-0 flex-1 items-center gap-1.5 text-left hover:underline"
        onClick={() => openItem(item.key)}
      >
        <span className="key text-[11.5px]">{item.key}</span>
        <span className="truncate">{item.title}</span>
      </button>
      <span className="whitespace-nowrap text-[12px] text-ink-soft">{heldWords(item)}</span>
      {movable && (
        <Menu
          align="end"
          trigger={
            <Button small look="quiet" className="!px-1" aria-label={`More for ${item.key}`}>
              <Ellipsis size={13} aria-hidden="true" />
            </Button>
          }
        >
          <MenuItem onSelect={() => setAsking(true)}>Who could take it</MenuItem>
          <MenuSection>
            {view.people
              .filter(({ id }) => id !== holder.id)
              .map((person) => (
                <MenuItem key={person.id} onSelect={() => void give(item, person)}>
                  Give it to {person.name}
                </MenuItem>
              ))}
            <MenuItem onSelect={() => void give(item, null)}>Give it to nobody</MenuItem>
          </MenuSection>
        </Menu>
      )}
      <Sheet
        open={asking}
        onClose={() => setAsking(false)}
        title={`Who could take ${item.key}`}
        className="!w-[520px]"
      >
        <Takers
          projectKey={view.project.key}
          item={item}
          onGive={(person) => {
            setAsking(false);
            void give(item, person);
          }}
        />
      </Sheet>
    </li>
  );
}

function heldWords({ hours, about, begun, planned }: HeldItem): string {
  const size = hours === null ? "no size" : `${about ? "about " : ""}${round(hours)} h`;
  if (begun) return `${size}, in hand`;
  return planned ? size : `${size}, on no days yet`;
}
