"use client";
import { useDroppable } from "@dnd-kit/core";
import { ChevronRight } from "lucide-react";
import { Fragment, useState, type CSSProperties } from "react";
import type { Card } from "@/core/board/card";
import { limitState, limitWords } from "@/core/board/limit";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { WHOLE } from "@/core/plan/backlog-sections";
import type { BacklogView } from "@/core/plan/backlog-view";
import { sprintStanding } from "@/core/plan/sprint";
import type { Moves } from "@/ui/board/use-moves";
import { TextButton } from "@/ui/kit/button";
import { MoreRows } from "@/ui/kit/more-rows";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";
import { useCellEdit } from "@/ui/table/use-cell-edit";
import { backlogColumns, leastRowWidth, type DrawnBacklogColumn } from "./backlog-columns";
import { BacklogRow } from "./backlog-row";
import { ReachMark } from "./reach-line";
import type { Backlog, ShownSection } from "./use-backlog";
import type { BacklogChosen } from "./use-backlog-chosen";
import type { BacklogOrder } from "./use-backlog-order";
import type { ReachHandle } from "./use-reach";

interface ListProps {
  backlog: Backlog;
  reach: ReachHandle;
  moves: Moves;
  order: BacklogOrder;
  chosen: BacklogChosen;
  onOpen: (card: Card) => void;
}

/** The rows of a backlog in their parts, with the lines of its reach between them. */
export function BacklogList(props: ListProps) {
  const { backlog } = props;
  const { view, rows, sections, look, filter } = backlog;
  const columns = backlogColumns(look.columns, view.vocabulary);
  const read = sections.every(({ count }) => count !== null);
  return (
    <div
      className="@container min-w-0 flex-1 overflow-auto px-4 pb-2"
      style={{ "--least": `${leastRowWidth(columns)}px` } as CSSProperties}
      data-backlog
    >
      {rows.length === 0 && read && filter.narrows && (
        <p className="py-10 text-center text-ink-soft">
          Nothing in the backlog is like that.{" "}
          <TextButton onClick={filter.showAll}>Show all</TextButton>
        </p>
      )}
      {rows.length === 0 && read && !filter.narrows && (
        <p className="py-10 text-center text-ink-soft">
          The backlog is empty. Accept a report in Intake or add an item: it gets its place here.
        </p>
      )}
      <div className="backlog-rows">
        <Heads columns={columns} />
        {sections.map((shown) => (
          <Section key={shown.section.id} {...props} shown={shown} columns={columns} />
        ))}
      </div>
    </div>
  );
}

/** What the columns are called. */
function Heads({ columns }: { columns: readonly DrawnBacklogColumn[] }) {
  return (
    <div className="backlog-heads @max-2xl:hidden" aria-hidden="true">
      {columns.map(({ column, name, width, figures }) => (
        <span key={column} style={{ width }} className={figures ? "text-right" : undefined}>
          {name}
        </span>
      ))}
      <span className="backlog-acts" />
    </div>
  );
}

/** One part of the backlog. */
function Section({
  shown: { section, cards, count },
  columns,
  backlog,
  reach,
  moves,
  order,
  chosen,
  onOpen,
}: ListProps & { shown: ShownSection; columns: readonly DrawnBacklogColumn[] }) {
  const { view, said, more, readAgain } = backlog;
  const { itemKey } = usePanel();
  const [folded, setFolded] = useState(false);
  const edit = useCellEdit(readAgain, view.vocabulary);
  const whole = section.id === WHOLE.id;
  const ranked = reach.ranked === section.id;
  const menu = view.rights.edit ? { view, pieces: reach.data.pieces } : null;
  return (
    <section aria-label={section.name} data-section={section.name}>
      {!whole && (
        <SectionHead
          shown={{ section, cards, count }}
          view={view}
          folded={folded}
          onFold={() => setFolded(!folded)}
        />
      )}
      {!folded && (
        <ol aria-label={whole ? "Backlog in order" : `${section.name} in order`}>
          {ranked && reach.noneBy !== null && (
            <li className="reach-none">
              Probably none of these by {reach.noneBy}: {counted(reach.data.ahead, "item")} in
              progress go first.
            </li>
          )}
          {cards.map((card, i) => (
            <Fragment key={card.id}>
              <BacklogRow
                card={card}
                around={said.around[card.id]}
                values={said.values[card.id]}
                parent={card.parentId === null ? undefined : said.parents[card.id]}
                columns={columns}
                position={i + 1}
                state={
                  section.holds.kind === "states" && section.holds.stateIds.length === 1
                    ? null
                    : stateWords(moves, card)
                }
                open={card.key === itemKey}
                movable={view.rights.move}
                view={view}
                due={ranked ? reach.dueOf(card, i) : null}
                order={order}
                edit={edit}
                menu={menu}
                chosen={chosen.has(card.id)}
                onChoose={view.rights.edit ? chosen.turn : null}
                onOpen={onOpen}
              />
              {ranked && <ReachMark lines={reach.lines.get(i + 1) ?? []} />}
            </Fragment>
          ))}
        </ol>
      )}
      {!folded && count !== null && cards.length < count && (
        <MoreRows
          key={cards.length}
          rest={count - cards.length}
          onMore={() => void more(section.id)}
        />
      )}
    </section>
  );
}

/** Where an item is that has been begun; null for what waits. */
const stateWords = (moves: Moves, card: Card): string | null =>
  card.stateKind === "unstarted"
    ? null
    : (moves.workflowOf(card)?.states.find(({ id }) => id === card.stateId)?.name ?? null);

/** What a part is called and how much is in it; rows are dropped onto it too. */
function SectionHead({
  shown: { section, count },
  view,
  folded,
  onFold,
}: {
  shown: ShownSection;
  view: BacklogView;
  folded: boolean;
  onFold: () => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `section:${section.id}` });
  return (
    <h2 ref={setNodeRef} className="backlog-section" data-over={isOver || undefined}>
      <button
        type="button"
        className="flex items-center gap-1.5"
        aria-expanded={!folded}
        onClick={onFold}
      >
        <ChevronRight size={14} aria-hidden="true" className={folded ? undefined : "rotate-90"} />
        {section.name}
        <span className="figures text-ink-soft">{count ?? ""}</span>
      </button>
      <span className="text-[12.5px] font-normal text-ink-soft">
        <SectionWords section={section} view={view} />
      </span>
    </h2>
  );
}

/** The limit of what is chosen next; the days and the goal of a sprint. */
function SectionWords({
  section: { holds, pulledInto: next },
  view,
}: Pick<ShownSection, "section"> & { view: BacklogView }) {
  const { pulledInto, sprints, totals, project, now } = view;
  if (next && pulledInto) {
    const { limit, holds: there } = pulledInto;
    if (limit === null) return "chosen next";
    const state = limitState(there, limit);
    return (
      <>
        chosen next ·{" "}
        <b className={state.kind === "over" ? "text-alarm" : "text-ink"}>
          {limitWords(state, limit)}
        </b>
      </>
    );
  }
  const sprint = holds.kind === "sprint" && sprints.find(({ id }) => id === holds.sprintId);
  if (!sprint) return null;
  const over = sprintStanding(sprint, isoDate(dayNumber(now, project.zone))) === "over";
  const all = totals[sprint.id]?.all ?? { items: 0, points: 0 };
  const open = totals[sprint.id]?.items ?? 0;
  return (
    <>
      {shortDate(sprint.startsOn)} – {shortDate(sprint.endsOn)}
      {all.items > 0 && ` · ${all.items - open} of ${counted(all.items, "item")} done`}
      {sprint.goal && ` · ${sprint.goal}`}
      {over && <b className="text-alarm"> · over, and not ended</b>}
    </>
  );
}
