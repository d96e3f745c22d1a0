"use client";
import { Ellipsis } from "lucide-react";
import type { Card } from "@/core/board/card";
import { isoDate, dayNumber } from "@/core/calendar/zone";
import type { BacklogView } from "@/core/plan/backlog-view";
import type { LargePiece } from "@/core/plan/reach-view";
import { Button } from "@/ui/kit/button";
import { Menu, MenuItem, MenuSection, MenuTitle } from "@/ui/kit/menu";
import type { BacklogOrder } from "./use-backlog-order";

/** What a row can be planned into. */
export interface PlanChoices {
  view: BacklogView;
  pieces: readonly LargePiece[];
}

/** So many of each stand in the menu. */
const MOST = 6;

/** Everything that is done to a row by dragging it, for those who do not drag. */
export function RowMenu({
  card,
  order,
  choices: { view, pieces },
}: {
  card: Card;
  order: BacklogOrder;
  choices: PlanChoices;
}) {
  const today = isoDate(dayNumber(view.now, view.project.zone));
  const sprints = view.sprints.filter(({ endsOn }) => endsOn >= today).slice(0, MOST);
  const releases = view.releases.filter(({ releasedAt }) => releasedAt === null).slice(0, MOST);
  const boxes = [
    { kind: "sprint", title: "Into a sprint", all: sprints, now: card.sprintId },
    { kind: "release", title: "Into a release", all: releases, now: card.releaseId },
  ] as const;
  return (
    <Menu
      align="end"
      trigger={
        <Button small look="quiet" className="!px-1.5" aria-label={`More for ${card.key}`}>
          <Ellipsis size={14} aria-hidden="true" />
        </Button>
      }
    >
      <MenuItem onSelect={() => order.toTop(card)}>To the top</MenuItem>
      <MenuItem onSelect={() => order.step(card, -1)}>One up</MenuItem>
      <MenuItem onSelect={() => order.step(card, 1)}>One down</MenuItem>
      <MenuItem onSelect={() => void order.toEnd(card)}>To the end</MenuItem>
      {boxes.map(({ kind, title, all, now }) =>
        all.length === 0 && now === null ? null : (
          <MenuSection key={kind}>
            <MenuTitle>{title}</MenuTitle>
            {all
              .filter(({ id }) => id !== now)
              .map(({ id, name }) => (
                <MenuItem key={id} onSelect={() => void order.plan(card, { kind, id, name })}>
                  {name}
                </MenuItem>
              ))}
            {now !== null && (
              <MenuItem
                onSelect={() => void order.plan(card, { kind, id: null, name: "" })}
              >{`Into no ${kind}`}</MenuItem>
            )}
          </MenuSection>
        ),
      )}
      {pieces.length > 0 && (
        <MenuSection>
          <MenuTitle>Under</MenuTitle>
          {pieces.slice(0, MOST).map(({ id, key, title }) => (
            <MenuItem
              key={id}
              onSelect={() => void order.plan(card, { kind: "piece", key, name: title })}
            >
              {title}
            </MenuItem>
          ))}
        </MenuSection>
      )}
    </Menu>
  );
}
