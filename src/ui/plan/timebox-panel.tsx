"use client";
import { useRouter } from "next/navigation";
import { useState, type ReactNode } from "react";
import { v7 as newId } from "uuid";
import { addDays } from "@/core/calendar/month";
import { counted } from "@/core/formats/counted";
import type { BacklogView, TimeboxTotal } from "@/core/plan/backlog-view";
import { planContract } from "@/core/plan/contract";
import type { Timebox } from "@/core/plan/membership";
import type { LargePiece, ReachView } from "@/core/plan/reach-view";
import type { TimeboxRequest } from "@/core/plan/request";
import {
  newRelease,
  sprintAfter,
  sprintStanding,
  sprintWords,
  type PlannedSprint,
  type Release,
  type Sprint,
} from "@/core/plan/sprint";
import { Button, TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { PeoplePlaces } from "./people-places";
import { PlanCard } from "./plan-card";
import { usePlanSettings } from "./plan-settings";
import { ReleaseForm, SprintForm } from "./timebox-form";

type Edited =
  | { kind: "sprint"; sprint: Sprint; isNew: boolean }
  | { kind: "release"; release: Release; isNew: boolean };

/**
 * What rows of the backlog are dropped onto: the sprints that run or come, the releases to come, and
 * the large pieces, each with how far it is and by when it will probably be finished.
 */
export function TimeboxPanel({
  view,
  reach,
  onChanged,
}: {
  view: BacklogView;
  reach: ReachView;
  onChanged: () => void;
}) {
  const [edited, setEdited] = useState<Edited | null>(null);
  const leave = () => setEdited(null);
  const send = async (body: TimeboxRequest): Promise<boolean> => {
    try {
      await ask(planContract.change, { params: { key: view.project.key }, body });
      leave();
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      onChanged();
    }
  };
  return (
    <aside
      aria-label="Sprints, releases, large pieces and people"
      className="flex w-[270px] shrink-0 flex-col gap-5 overflow-y-auto border-l border-line bg-sheet px-3 py-3"
    >
      <Sprints
        view={view}
        reach={reach}
        onEdit={(sprint, isNew) => setEdited({ kind: "sprint", sprint, isNew })}
      />
      <Releases
        view={view}
        reach={reach}
        onEdit={(release, isNew) => setEdited({ kind: "release", release, isNew })}
      />
      <Pieces reach={reach} />
      <PeoplePlaces projectKey={view.project.key} />
      {edited?.kind === "sprint" && (
        <SprintForm
          key={edited.sprint.id}
          given={edited.sprint}
          isNew={edited.isNew}
          onSend={send}
          onCancel={leave}
        />
      )}
      {edited?.kind === "release" && (
        <ReleaseForm
          key={edited.release.id}
          given={edited.release}
          isNew={edited.isNew}
          onSend={send}
          onCancel={leave}
        />
      )}
    </aside>
  );
}

interface ListProps<T> {
  view: BacklogView;
  reach: ReachView;
  onEdit: (edited: T, isNew: boolean) => void;
}

function Sprints({ view, reach, onEdit }: ListProps<Sprint>) {
  const { today } = reach;
  const words = sprintWords(view.sprints, today);
  const router = useRouter();
  const open = (id: string) =>
    router.push(`/p/${view.project.key}/plan/sprints?sprint=${encodeURIComponent(id)}`);
  // One that is over stays in sight until somebody ends it, and as long as anything is open in it.
  const sprints = view.sprints.filter(
    (s) =>
      (s.endedAt === null && s.endsOn >= today) ||
      (view.totals[s.id]?.items ?? 0) > 0 ||
      isOver(s, today),
  );
  const next = (): Sprint => ({
    id: newId(),
    goal: "",
    ...sprintAfter(view.sprints, today, view.settings.sprintDays),
  });
  if (!view.settings.usesSprints) return <NoSprints view={view} />;
  return (
    <Section
      title="Sprints"
      adds="Add a sprint"
      onAdd={view.rights.edit ? () => onEdit(next(), true) : null}
      none="None runs and none is planned. A sprint is a time box of one to four weeks, and has a goal."
    >
      {sprints.map((s) => (
        <PlanCard
          key={s.id}
          kind="sprint"
          id={s.id}
          name={s.name}
          aside={`${shortDate(s.startsOn)} – ${shortDate(s.endsOn)}`}
          now={s.id === words.current}
          onOpen={() => open(s.id)}
          {...doneIn(view, s.id)}
          onChange={view.rights.edit ? () => onEdit(s, false) : undefined}
        >
          <p className={s.goal ? "italic" : "text-signal-ink"}>{s.goal || "no goal yet"}</p>
          {isOver(s, today) && <b className="text-alarm">over, and not ended</b>}
          {s.endedAt !== null && <b className="text-alarm">has ended, and holds open items</b>}
          <Inside view={view} timebox="sprint" {...s} />
          <Probably reach={reach} id={s.id} by={s.endsOn} />
        </PlanCard>
      ))}
    </Section>
  );
}

/** That the project plans without sprints, with the switch for whoever may use it. */
function NoSprints({ view: { project, settings, rights } }: { view: BacklogView }) {
  const store = usePlanSettings(project.key, settings);
  return (
    <section aria-label="Sprints">
      <h2 className="text-[15px]">Sprints</h2>
      <p className="text-[13px] text-ink-soft">
        This project plans without sprints.{" "}
        {rights.design && (
          <TextButton
            onClick={() => void store({ usesSprints: true }, `${project.name} plans in sprints.`)}
          >
            Plan in sprints
          </TextButton>
        )}
      </p>
    </section>
  );
}

const isOver = (sprint: PlannedSprint, today: string): boolean =>
  sprintStanding(sprint, today) === "over";

function Releases({ view, reach, onEdit }: ListProps<Release>) {
  const router = useRouter();
  const open = (id: string) =>
    router.push(`/p/${view.project.key}/plan/releases?release=${encodeURIComponent(id)}`);
  // One that is out stays in sight as long as anything is open in it.
  const releases = view.releases.filter(
    (r) => r.releasedAt === null || (view.totals[r.id]?.items ?? 0) > 0,
  );
  const next = (): Release => newRelease(newId());
  return (
    <Section
      title="Releases"
      adds="Add a release"
      onAdd={view.rights.edit ? () => onEdit(next(), true) : null}
      none="None is planned. A release is a set of items that go out together."
    >
      {releases.map((r) => (
        <PlanCard
          key={r.id}
          kind="release"
          id={r.id}
          name={r.name}
          aside={r.dueOn ? shortDate(r.dueOn) : "no date yet"}
          onOpen={() => open(r.id)}
          {...doneIn(view, r.id)}
          onChange={view.rights.edit ? () => onEdit(r, false) : undefined}
        >
          {r.releasedAt !== null && <b className="text-alarm">is out, and holds open items</b>}
          {r.releasedAt === null && r.dueOn && r.dueOn < reach.today && (
            <b className="text-alarm">its day is past</b>
          )}
          <Inside view={view} timebox="release" {...r} />
          <Probably reach={reach} id={r.id} by={r.dueOn} />
        </PlanCard>
      ))}
    </Section>
  );
}

/** So many large pieces stand there before the others are asked for. */
const FIRST_PIECES = 6;

/** The open large pieces, with how far their stories are. */
function Pieces({ reach }: { reach: ReachView }) {
  const { openItem } = usePanel();
  const [all, setAll] = useState(false);
  const { pieces } = reach;
  if (pieces.length === 0) return null;
  return (
    <section aria-label="Large pieces">
      <h2 className="text-[15px]">Large pieces</h2>
      <ul className="mt-1">
        {(all ? pieces : pieces.slice(0, FIRST_PIECES)).map((piece) => (
          <PlanCard
            key={piece.id}
            kind="piece"
            id={piece.id}
            name={piece.title}
            aside={piece.items === 0 ? "" : `${piece.done} of ${piece.items}`}
            done={piece.done}
            of={piece.items}
            onOpen={() => openItem(piece.key)}
          >
            <p className="text-[12.5px] text-ink-soft">{pieceWords(piece)}</p>
            <Probably reach={reach} id={piece.id} by={piece.dueOn} />
          </PlanCard>
        ))}
      </ul>
      {!all && pieces.length > FIRST_PIECES && (
        <TextButton className="mt-1 text-[13px]" onClick={() => setAll(true)}>
          All {pieces.length}
        </TextButton>
      )}
    </section>
  );
}

function pieceWords({ items, points, donePoints, unsized, started }: LargePiece): string {
  if (items === 0) return "nothing under it yet";
  const said = started ? [] : ["not started"];
  if (points > 0) said.push(`${donePoints} of ${counted(points, "point")}`);
  if (unsized > 0) said.push(`no size on ${unsized}`);
  return said.join(" · ");
}

/** By when all of it will probably be finished, as a day; in alarm where that is too late. */
function Probably({ reach, id, by }: { reach: ReachView; id: string; by: string | null }) {
  const until = reach.until[id];
  if (!until) return null;
  const { sure } = until;
  const day = sure === null ? null : addDays(reach.today, sure);
  const late = by !== null && (day === null || day > by);
  return (
    <p className={`text-[12.5px] ${late ? "font-semibold text-alarm" : "text-ink-soft"}`}>
      {day === null ? "not 85 % sure within a year" : `85 % sure by ${shortDate(day)}`}
    </p>
  );
}

const NOTHING: TimeboxTotal = { items: 0, points: 0, unseen: 0, all: { items: 0, points: 0 } };

/** How much of it is done: by points where it has any, else by items. */
function doneIn(view: BacklogView, id: string): { done: number; of: number } {
  const { items, points, all } = view.totals[id] ?? NOTHING;
  return all.points > 0
    ? { done: all.points - points, of: all.points }
    : { done: all.items - items, of: all.items };
}

/** What is open in a sprint or release; behind the figure are its items. */
function Inside({
  view,
  timebox,
  id,
  name,
}: {
  view: BacklogView;
  timebox: Timebox;
  id: string;
  name: string;
}) {
  const { openBehind } = usePanel();
  const { items, points, unseen, all } = view.totals[id] ?? NOTHING;
  const open = async () => {
    try {
      const asked = { params: { key: view.project.key }, query: { timebox, id } };
      const { ids } = await ask(planContract.inside, asked);
      openBehind({ title: name, ids, unseen });
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <p className="text-[12.5px] text-ink-soft">
      <button type="button" className="hover:underline" onClick={() => void open()}>
        {counted(items, "open item")}, {counted(points, "point")}
      </button>
      {all.items > items && ` · ${all.items - items} of ${all.items} done`}
    </p>
  );
}

function Section({
  title,
  adds,
  onAdd,
  none,
  children,
}: {
  title: string;
  adds: string;
  onAdd: (() => void) | null;
  /** Said where there is nothing yet. */
  none: string;
  children: ReactNode[];
}) {
  return (
    <section aria-label={title}>
      <div className="flex items-baseline">
        <h2 className="flex-1 text-[15px]">{title}</h2>
        {onAdd && (
          <Button small look="quiet" onClick={onAdd}>
            {adds}
          </Button>
        )}
      </div>
      {children.length === 0 && <p className="text-[13px] text-ink-soft">{none}</p>}
      <ul className="mt-1">{children}</ul>
    </section>
  );
}
