"use client";
import { FormFooter } from "@/ui/kit/form-footer";
import { DateInput } from "@/ui/kit/date-input";
import { Check } from "@/ui/kit/check";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { TextButton, Button } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import { useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent, type ReactNode } from "react";
import type { Card } from "@/core/board/card";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { sprintWords, type Release, type Sprint } from "@/core/plan/sprint";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";
import { v7 as newId } from "uuid";
import type { BoardView } from "@/core/board/board-view";
import { boardContract } from "@/core/board/contract";
import { planContract } from "@/core/plan/contract";
import type { TimeboxRequest } from "@/core/plan/request";
import { ask, keyOf } from "@/ui/kit/request";

/**
 * The sprints that run or come, and the releases to come, each with what is planned in it and is
 * open.
 */
export function TimeboxPanel({ view, now }: { view: BoardView; now: number }) {
  const client = useQueryClient();
  const { openBehind } = usePanel();
  const [editing, setEditing] = useState<
    | { kind: "sprint"; sprint: Sprint; isNew: boolean }
    | { kind: "release"; release: Release; isNew: boolean }
    | null
  >(null);
  const today = isoDate(dayNumber(now, view.project.zone));
  const words = sprintWords(view.sprints, today);
  const sprints = view.sprints.filter((s) => s.endsOn >= today);
  const releases = view.releases.filter((r) => r.releasedAt === null);
  const mayPlan = view.rights.edit;
  const send = async (body: TimeboxRequest): Promise<boolean> => {
    try {
      await ask(planContract.change, { params: { key: view.project.key }, body });
      setEditing(null);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await client.invalidateQueries({
        queryKey: keyOf(boardContract.read, { params: { key: view.project.key } }),
      });
    }
  };
  const open = view.cards.filter((c) => c.stateKind !== "finished");
  // Totals of sprints and releases are facts of the project: they count what this person may not
  // see as well.
  const inside = (cards: Card[], box: { id: string; name: string }) => {
    const unseen = view.hiddenInTimeboxes[box.id] ?? { items: 0, points: 0 };
    const points = cards.reduce((sum, c) => sum + (c.estimate ?? 0), unseen.points);
    return (
      <button
        type="button"
        className="text-[12.5px] text-ink-soft hover:underline"
        onClick={() =>
          openBehind({ title: box.name, ids: cards.map((c) => c.id), unseen: unseen.items })
        }
      >
        {counted(cards.length + unseen.items, "open item")}, {counted(points, "point")}
      </button>
    );
  };
  const nextSprint = (): Sprint => {
    const last = view.sprints.at(-1);
    const first =
      last && last.endsOn >= today
        ? isoDate(Math.round(Date.parse(last.endsOn) / 86_400_000) + 1)
        : today;
    return {
      id: newId(),
      name: `Sprint ${view.sprints.length + 1}`,
      goal: "",
      startsOn: first,
      endsOn: isoDate(Math.round(Date.parse(first) / 86_400_000) + 13),
    };
  };
  return (
    <aside
      aria-label="Sprints and releases"
      className="flex w-[270px] shrink-0 flex-col gap-5 overflow-y-auto border-l border-line bg-sheet px-3 py-3"
    >
      <Section
        title="Sprints"
        add={
          mayPlan ? () => setEditing({ kind: "sprint", sprint: nextSprint(), isNew: true }) : null
        }
      >
        {sprints.length === 0 && (
          <p className="text-[13px] text-ink-soft">
            None runs and none is planned. A sprint is a month at most, and has a goal.
          </p>
        )}
        {sprints.map((s) => (
          <li
            key={s.id}
            className={`border-t border-line py-1.5 ${s.id === words.current ? "border-l-[3px] border-l-accent pl-2" : ""}`}
            data-sprint={s.name}
          >
            <p className="flex items-baseline gap-2">
              <b className="min-w-0 flex-1 truncate">{s.name}</b>
              {mayPlan && (
                <TextButton
                  className="text-[12.5px]"
                  onClick={() => setEditing({ kind: "sprint", sprint: s, isNew: false })}
                >
                  change
                </TextButton>
              )}
            </p>
            <p className="text-[12.5px]">
              {shortDate(s.startsOn)} to {shortDate(s.endsOn)}
              {s.id === words.current && <b className="text-accent"> · runs now</b>}
              {s.id === words.next && <span className="text-ink-soft"> · next</span>}
            </p>
            {s.goal && <p className="text-[13px]">{s.goal}</p>}
            {inside(
              open.filter((c) => c.sprintId === s.id),
              s,
            )}
          </li>
        ))}
      </Section>
      <Section
        title="Releases"
        add={
          mayPlan
            ? () =>
                setEditing({
                  kind: "release",
                  release: { id: newId(), name: "", dueOn: null, releasedAt: null },
                  isNew: true,
                })
            : null
        }
      >
        {releases.length === 0 && (
          <p className="text-[13px] text-ink-soft">
            None is planned. A release is a set of items that go out together.
          </p>
        )}
        {releases.map((r) => (
          <li key={r.id} className="border-t border-line py-1.5" data-release={r.name}>
            <p className="flex items-baseline gap-2">
              <b className="min-w-0 flex-1 truncate">{r.name}</b>
              {mayPlan && (
                <TextButton
                  className="text-[12.5px]"
                  onClick={() => setEditing({ kind: "release", release: r, isNew: false })}
                >
                  change
                </TextButton>
              )}
            </p>
            <p className="text-[12.5px]">
              {r.dueOn ? (
                <>
                  by {shortDate(r.dueOn)}
                  {r.dueOn < today && <b className="text-alarm"> · its day is past</b>}
                </>
              ) : (
                "no date yet"
              )}
            </p>
            {inside(
              open.filter((c) => c.releaseId === r.id),
              r,
            )}
          </li>
        ))}
      </Section>
      {editing?.kind === "sprint" && (
        <SprintForm
          key={editing.sprint.id}
          given={editing.sprint}
          isNew={editing.isNew}
          onSend={send}
          onCancel={() => setEditing(null)}
        />
      )}
      {editing?.kind === "release" && (
        <ReleaseForm
          key={editing.release.id}
          given={editing.release}
          isNew={editing.isNew}
          onSend={send}
          onCancel={() => setEditing(null)}
        />
      )}
    </aside>
  );
}

function Section({
  title,
  add,
  children,
}: {
  title: string;
  add: (() => void) | null;
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <div className="flex items-baseline">
        <h2 className="flex-1 text-[15px]">{title}</h2>
        {add && (
          <Button small onClick={add}>
            Add a {title === "Sprints" ? "sprint" : "release"}
          </Button>
        )}
      </div>
      <ul className="mt-1">{children}</ul>
    </section>
  );
}

interface FormProps<T> {
  given: T;
  isNew: boolean;
  onSend: (body: TimeboxRequest) => Promise<boolean>;
  onCancel: () => void;
}

function TimeboxForm({
  label,
  isNew,
  onStore,
  onRemove,
  onCancel,
  children,
}: {
  label: string;
  isNew: boolean;
  onStore: () => void;
  onRemove: () => void;
  onCancel: () => void;
  children: ReactNode;
}) {
  return (
    <form
      aria-label={label}
      className="flex flex-col gap-2 border-l-[3px] border-accent pl-3"
      onSubmit={(e: FormEvent) => {
        e.preventDefault();
        onStore();
      }}
    >
      {children}
      <FormFooter
        send={isNew ? "Add it" : "Store it"}
        onLeave={onCancel}
        onRemove={isNew ? undefined : onRemove}
      />
    </form>
  );
}

function SprintForm({ given, isNew, onSend, onCancel }: FormProps<Sprint>) {
  const [sprint, setSprint] = useState(given);
  const set = (change: Partial<Sprint>) => setSprint((s) => ({ ...s, ...change }));
  return (
    <TimeboxForm
      label="Sprint"
      isNew={isNew}
      onCancel={onCancel}
      onStore={() => void onSend({ kind: "sprint", sprint })}
      onRemove={() => void onSend({ kind: "remove sprint", id: sprint.id })}
    >
      <Field label="Name">
        <TextInput
          required
          autoFocus
          maxLength={60}
          value={sprint.name}
          onChange={(e) => set({ name: e.target.value })}
        />
      </Field>
      <Field label="Goal">
        <TextArea
          className="!font-normal"
          rows={2}
          maxLength={300}
          value={sprint.goal}
          onChange={(e) => set({ goal: e.target.value })}
          placeholder="Boarding without queues on Saturdays"
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="First day">
          <DateInput
            className=""
            required
            value={sprint.startsOn}
            onChange={(startsOn) => set({ startsOn })}
          />
        </Field>
        <Field label="Last day">
          <DateInput
            className=""
            required
            min={sprint.startsOn}
            value={sprint.endsOn}
            onChange={(endsOn) => set({ endsOn })}
          />
        </Field>
      </div>
    </TimeboxForm>
  );
}

function ReleaseForm({ given, isNew, onSend, onCancel }: FormProps<Release>) {
  const [{ id, name, dueOn, releasedAt }, setRelease] = useState(given);
  const [released, setReleased] = useState(releasedAt !== null);
  return (
    <TimeboxForm
      label="Release"
      isNew={isNew}
      onCancel={onCancel}
      onStore={() => void onSend({ kind: "release", release: { id, name, dueOn, released } })}
      onRemove={() => void onSend({ kind: "remove release", id })}
    >
      <Field label="Name">
        <TextInput
          required
          autoFocus
          maxLength={60}
          value={name}
          onChange={(e) => setRelease((r) => ({ ...r, name: e.target.value }))}
          placeholder="Summer crossing"
        />
      </Field>
      <Field label="By">
        <DateInput
          value={dueOn ?? ""}
          onChange={(day) => setRelease((r) => ({ ...r, dueOn: day || null }))}
        />
      </Field>
      {!isNew && (
        <Check checked={released} onChange={setReleased} className="text-[13px]">
          it is out
        </Check>
      )}
    </TimeboxForm>
  );
}
