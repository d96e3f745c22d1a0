"use client";
import { useState, type ReactNode } from "react";
import { v7 as newId } from "uuid";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import type { BacklogView } from "@/core/plan/backlog-view";
import { planContract } from "@/core/plan/contract";
import type { Timebox } from "@/core/plan/membership";
import type { TimeboxRequest } from "@/core/plan/request";
import { sprintAfter, sprintWords, type Release, type Sprint } from "@/core/plan/sprint";
import { Button, TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { ReleaseForm, SprintForm } from "./timebox-form";

type Edited =
  | { kind: "sprint"; sprint: Sprint; isNew: boolean }
  | { kind: "release"; release: Release; isNew: boolean };

/**
 * The sprints that run or come, and the releases to come, each with what is planned in it and is
 * open.
 */
export function TimeboxPanel({ view, onChanged }: { view: BacklogView; onChanged: () => void }) {
  const [edited, setEdited] = useState<Edited | null>(null);
  const today = isoDate(dayNumber(view.now, view.project.zone));
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
      aria-label="Sprints and releases"
      className="flex w-[270px] shrink-0 flex-col gap-5 overflow-y-auto border-l border-line bg-sheet px-3 py-3"
    >
      <Sprints
        view={view}
        today={today}
        onEdit={(sprint, isNew) => setEdited({ kind: "sprint", sprint, isNew })}
      />
      <Releases
        view={view}
        today={today}
        onEdit={(release, isNew) => setEdited({ kind: "release", release, isNew })}
      />
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
  /** ISO 8601 calendar date. */
  today: string;
  onEdit: (edited: T, isNew: boolean) => void;
}

function Sprints({ view, today, onEdit }: ListProps<Sprint>) {
  const words = sprintWords(view.sprints, today);
  const sprints = view.sprints.filter((s) => s.endsOn >= today);
  const next = (): Sprint => ({ id: newId(), goal: "", ...sprintAfter(view.sprints, today) });
  return (
    <Section
      title="Sprints"
      adds="Add a sprint"
      onAdd={view.rights.edit ? () => onEdit(next(), true) : null}
      none="None runs and none is planned. A sprint is a month at most, and has a goal."
    >
      {sprints.map((s) => (
        <li
          key={s.id}
          className={`border-t border-line py-1.5 ${s.id === words.current ? "border-l-[3px] border-l-accent pl-2" : ""}`}
          data-sprint={s.name}
        >
          <Named name={s.name} onChange={view.rights.edit ? () => onEdit(s, false) : null} />
          <p className="text-[12.5px]">
            {shortDate(s.startsOn)} to {shortDate(s.endsOn)}
            {s.id === words.current && <b className="text-accent"> · runs now</b>}
            {s.id === words.next && <span className="text-ink-soft"> · next</span>}
          </p>
          {s.goal && <p className="text-[13px]">{s.goal}</p>}
          <Inside view={view} timebox="sprint" {...s} />
        </li>
      ))}
    </Section>
  );
}

function Releases({ view, today, onEdit }: ListProps<Release>) {
  const releases = view.releases.filter((r) => r.releasedAt === null);
  const next = (): Release => ({ id: newId(), name: "", dueOn: null, releasedAt: null });
  return (
    <Section
      title="Releases"
      adds="Add a release"
      onAdd={view.rights.edit ? () => onEdit(next(), true) : null}
      none="None is planned. A release is a set of items that go out together."
    >
      {releases.map((r) => (
        <li key={r.id} className="border-t border-line py-1.5" data-release={r.name}>
          <Named name={r.name} onChange={view.rights.edit ? () => onEdit(r, false) : null} />
          <p className="text-[12.5px]">
            {r.dueOn ? `by ${shortDate(r.dueOn)}` : "no date yet"}
            {r.dueOn && r.dueOn < today && <b className="text-alarm"> · its day is past</b>}
          </p>
          <Inside view={view} timebox="release" {...r} />
        </li>
      ))}
    </Section>
  );
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
  const { items, points, unseen } = view.totals[id] ?? { items: 0, points: 0, unseen: 0 };
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
    <button
      type="button"
      className="text-[12.5px] text-ink-soft hover:underline"
      onClick={() => void open()}
    >
      {counted(items, "open item")}, {counted(points, "point")}
    </button>
  );
}

function Named({ name, onChange }: { name: string; onChange: (() => void) | null }) {
  return (
    <p className="flex items-baseline gap-2">
      <b className="min-w-0 flex-1 truncate">{name}</b>
      {onChange && (
        <TextButton className="text-[12.5px]" onClick={onChange}>
          change
        </TextButton>
      )}
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
          <Button small onClick={onAdd}>
            {adds}
          </Button>
        )}
      </div>
      {children.length === 0 && <p className="text-[13px] text-ink-soft">{none}</p>}
      <ul className="mt-1">{children}</ul>
    </section>
  );
}
