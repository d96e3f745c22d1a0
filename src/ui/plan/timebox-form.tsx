"use client";
import { useState, type FormEvent, type ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import type { TimeboxRequest } from "@/core/plan/request";
import {
  endAfterWeeks,
  seasonWords,
  weeksOfSprint,
  type Release,
  type Sprint,
} from "@/core/plan/sprint";
import { Check } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { FormFooter } from "@/ui/kit/form-footer";

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

/** Usual lengths, in weeks. */
const LENGTHS = [1, 2, 3, 4];
const BY_DAYS = "by days";

/** The days, the name and the goal of a sprint. */
export function SprintForm({ given, isNew, onSend, onCancel }: FormProps<Sprint>) {
  const [sprint, setSprint] = useState(given);
  const set = (change: Partial<Sprint>) => setSprint((s) => ({ ...s, ...change }));
  const weeks = weeksOfSprint(sprint);
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
          placeholder="What will be better after it"
        />
      </Field>
      <Field label="Length" hint={seasonWords(sprint)}>
        <Select
          value={weeks === null ? BY_DAYS : String(weeks)}
          options={[
            ...LENGTHS.map((n) => ({ value: String(n), label: counted(n, "week") })),
            ...(weeks !== null && !LENGTHS.includes(weeks)
              ? [{ value: String(weeks), label: counted(weeks, "week") }]
              : []),
            { value: BY_DAYS, label: "by its days" },
          ]}
          onChange={(chosen) =>
            chosen !== BY_DAYS && set({ endsOn: endAfterWeeks(sprint.startsOn, Number(chosen)) })
          }
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="First day">
          <DateInput
            className=""
            required
            value={sprint.startsOn}
            onChange={(startsOn) =>
              set({ startsOn, ...(weeks ? { endsOn: endAfterWeeks(startsOn, weeks) } : {}) })
            }
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

/** The name and the day of a release, and whether it is out. */
export function ReleaseForm({ given, isNew, onSend, onCancel }: FormProps<Release>) {
  const [{ id, name, startsOn, dueOn, releasedAt }, setRelease] = useState(given);
  const [released, setReleased] = useState(releasedAt !== null);
  const [why, setWhy] = useState("");
  const moves = !isNew && given.dueOn !== null && given.dueOn !== dueOn;
  return (
    <TimeboxForm
      label="Release"
      isNew={isNew}
      onCancel={onCancel}
      onStore={() =>
        void onSend({ kind: "release", release: { id, name, startsOn, dueOn, released, why } })
      }
      onRemove={() => void onSend({ kind: "remove release", id })}
    >
      <Field label="Name">
        <TextInput
          required
          autoFocus
          maxLength={60}
          value={name}
          onChange={(e) => setRelease((r) => ({ ...r, name: e.target.value }))}
          placeholder="What goes out together"
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="From">
          <DateInput
            value={startsOn ?? ""}
            onChange={(day) => setRelease((r) => ({ ...r, startsOn: day || null }))}
          />
        </Field>
        <Field label="By">
          <DateInput
            min={startsOn ?? undefined}
            value={dueOn ?? ""}
            onChange={(day) => setRelease((r) => ({ ...r, dueOn: day || null }))}
          />
        </Field>
      </div>
      {moves && (
        <Field label="Why its day moves">
          <TextInput
            required
            maxLength={300}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
          />
        </Field>
      )}
      {!isNew && (
        <Check checked={released} onChange={setReleased} className="text-[13px]">
          it is out
        </Check>
      )}
    </TimeboxForm>
  );
}
