"use client";
import { Check, Choice } from "@/ui/kit/check";
import { TextButton } from "@/ui/kit/button";
import { DateInput } from "@/ui/kit/date-input";
import { Field, TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { useId } from "react";
import type { DeskView } from "@/core/intake/desk-view";
import type { PartSuggestion } from "@/core/intake/part-suggestion";
import {
  IMPACTS,
  proposedPriority,
  URGENCIES,
  type Impact,
  type Urgency,
} from "@/core/intake/triage-rules";
import type { Acceptance } from "@/core/intake/acceptance";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { TermEditor } from "@/ui/item/terms/term-editor";
import { FoundFields } from "./found-fields";
import { PartsField } from "./parts-field";

type Option = [value: string, label: string];
const same = (values: readonly string[]): Option[] => values.map((v) => [v, v]);

/** A list to choose from, with the choice of none before it. */
const named = (none: string, list: { id: string; name: string }[]): Option[] => [
  ["", none],
  ...list.map((t) => [t.id, t.name] as Option),
];

function ChoiceField({
  label,
  value,
  options,
  disabled = false,
  onChange,
}: {
  label: string;
  value: string;
  options: Option[];
  disabled?: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <Field label={label}>
      <Select
        disabled={disabled}
        value={value}
        options={options.map(([v, l]) => ({ value: v, label: l }))}
        onChange={onChange}
      />
    </Field>
  );
}

/** The choice of its place; where it was found may leave none. */
function placeOf({ found, onBoard, place }: Acceptance): string {
  if (found?.where === "in work") return "part";
  if (onBoard || found?.where === "fix now") return "board";
  return place.at === "below" ? place.itemId : place.at;
}

/** What an accepted report becomes. */
export function AcceptFields({
  desk,
  value,
  several,
  suggested,
  onChange,
}: {
  desk: DeskView;
  value: Acceptance;
  several: boolean;
  /** Parts of the product that the report seems to be about. */
  suggested: readonly PartSuggestion[];
  onChange: (value: Acceptance) => void;
}) {
  const set = (change: Partial<Acceptance>) => onChange({ ...value, ...change });
  const areas = useId();
  const where = value.found?.where;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2.5 lg:grid-cols-4">
      {!several && (
        <div className="col-span-full">
          <Field label="Title of the item">
            <TextInput
              required
              maxLength={300}
              value={value.title}
              onChange={(e) => set({ title: e.target.value })}
            />
          </Field>
        </div>
      )}
      {value.restricted && (
        <p className="col-span-full text-[13px]">
          <b>Restricted</b>: seen only by leads, by you and by whoever works on it.{" "}
          <TextButton onClick={() => set({ restricted: false })}>
            Let everybody in the project see it
          </TextButton>
        </p>
      )}
      <Weighed desk={desk} value={value} set={set} />
      <ChoiceField
        label="Severity"
        value={value.severity ?? ""}
        options={[...same(SEVERITIES), ["", "not set"]]}
        onChange={(v) =>
          set({
            severity: (v || null) as Acceptance["severity"],
          })
        }
      />
      <ChoiceField
        label="Type"
        value={value.typeId}
        options={desk.types.map((t) => [t.id, t.name])}
        onChange={(typeId) => set({ typeId, ...(typeId === "bug" ? {} : { found: null }) })}
      />
      <ChoiceField
        label="Team"
        value={value.teamId ?? ""}
        options={named("no team", desk.teams)}
        onChange={(v) =>
          set({
            teamId: v || null,
          })
        }
      />
      <Field label="Area">
        <TextInput
          list={areas}
          maxLength={200}
          placeholder={several ? "as each report says" : undefined}
          value={value.area ?? ""}
          onChange={(e) => set({ area: e.target.value || null })}
        />
      </Field>
      <datalist id={areas}>
        {desk.areas.map((a) => (
          <option key={a} value={a} />
        ))}
      </datalist>
      <ChoiceField
        label="Where to"
        value={placeOf(value)}
        options={[
          ...(where === "in work" ? [["part", "a part of that item"] as Option] : []),
          ["board", "on the board at once"],
          ["top", "top of the backlog"],
          ["bottom", "end of the backlog"],
          ...desk.backlogTop.map((b) => [b.id, `below ${b.key} ${b.title}`] as Option),
        ]}
        onChange={(v) =>
          set(
            v === "board"
              ? { onBoard: true, place: { at: "top" } }
              : {
                  onBoard: false,
                  place: v === "top" || v === "bottom" ? { at: v } : { at: "below", itemId: v },
                },
          )
        }
        disabled={where === "in work" || where === "fix now"}
      />
      {value.typeId === "bug" && !several && (
        <FoundFields desk={desk} value={value} onChange={onChange} />
      )}
      <PartsField
        projectKey={desk.project.key}
        suggested={suggested}
        value={value.parts ?? []}
        hint={value.parts === null ? "as each report says" : undefined}
        onChange={(parts) => set({ parts })}
      />
      <Owner desk={desk} value={value.assigneeId} onChange={(assigneeId) => set({ assigneeId })} />
      <MoreFields desk={desk} value={value} set={set} />
    </div>
  );
}

/** What is seldom said of an item as it is accepted. */
function MoreFields({
  desk,
  value,
  set,
}: {
  desk: DeskView;
  value: Acceptance;
  set: (change: Partial<Acceptance>) => void;
}) {
  return (
    <details className="col-span-full">
      <summary className="link w-fit text-[13px]">
        Class of service, due date, origin, sprint, release, labels, who sees it
      </summary>
      <div className="mt-2 grid grid-cols-2 gap-x-3 gap-y-2.5 lg:grid-cols-4">
        <ChoiceField
          label="Class of service"
          value={value.classOfService}
          options={same(CLASSES_OF_SERVICE)}
          onChange={(v) =>
            set({
              classOfService: v as Acceptance["classOfService"],
            })
          }
        />
        <Field label="Due">
          <DateInput
            aria-label="Due"
            value={value.dueOn ?? ""}
            onChange={(dueOn) => set({ dueOn: dueOn || null })}
          />
        </Field>
        <ChoiceField
          label="Origin"
          value={value.origin}
          options={same(ORIGINS)}
          onChange={(v) =>
            set({
              origin: v as Acceptance["origin"],
            })
          }
        />
        <ChoiceField
          label="Sprint"
          value={value.sprintId ?? ""}
          options={named("none", desk.sprints)}
          onChange={(v) =>
            set({
              sprintId: v || null,
            })
          }
        />
        <ChoiceField
          label="Release"
          value={value.releaseId ?? ""}
          options={named("none", desk.releases)}
          onChange={(v) =>
            set({
              releaseId: v || null,
            })
          }
        />
        <div className="col-span-2 flex flex-col gap-1">
          <span className="text-[12.5px] font-semibold">Labels</span>
          <TermEditor
            projectKey={desk.project.key}
            kind="label"
            names={value.labels}
            onChange={(labels) => set({ labels })}
          />
        </div>
        <label
          className="col-span-2 flex items-center gap-1.5 self-end pb-1 text-[13px]"
          title="For a report that others must not read yet: a hole in security, a matter of persons"
        >
          <Check checked={value.restricted} onChange={(on) => set({ restricted: on })} />
          Restricted: seen only by leads, by you and by whoever works on it
        </label>
      </div>
    </details>
  );
}

/** Who takes it, with what each has on hand in view. */
function Owner({
  desk,
  value,
  onChange,
}: {
  desk: DeskView;
  value: string | null;
  onChange: (id: string | null) => void;
}) {
  const one = (id: string | null, name: string, load: string, full: boolean) => (
    <label
      key={id ?? ""}
      className={`inline-flex cursor-pointer items-center gap-1.5 rounded-[3px] border px-2 text-[12.5px] ${value === id ? "border-accent bg-accent-soft font-semibold" : "border-line bg-paper"}`}
    >
      <Choice name="owner" checked={value === id} onChange={() => onChange(id)} />
      {name}
      {load && (
        <span className={full ? "font-semibold text-signal-ink" : "font-normal text-ink-soft"}>
          {load}
        </span>
      )}
    </label>
  );
  return (
    <fieldset className="col-span-full">
      <legend className="mb-1 text-[12.5px] font-semibold">
        Owner, and what they have on hand
      </legend>
      <div className="flex flex-wrap gap-1.5">
        {one(null, "nobody yet", "", false)}
        {desk.people.map((p) =>
          one(
            p.id,
            p.name,
            p.limit === null ? `${p.load}` : `${p.load} of ${p.limit}`,
            p.limit !== null && p.load >= p.limit,
          ),
        )}
      </div>
    </fieldset>
  );
}

/** What it hits and how soon it is needed, and the priority that was agreed for that. */
function Weighed({
  desk,
  value,
  set,
}: {
  desk: DeskView;
  value: Acceptance;
  set: (change: Partial<Acceptance>) => void;
}) {
  const agreed = (impact: Impact | null, urgency: Urgency | null) =>
    impact && urgency ? proposedPriority(desk.rules.grid, impact, urgency) : null;
  const weigh = (impact: Impact | null, urgency: Urgency | null) => {
    const priority = agreed(impact, urgency);
    set({ impact, urgency, ...(priority ? { priority } : {}) });
  };
  const proposed = agreed(value.impact, value.urgency);
  return (
    <>
      <ChoiceField
        label="It hits"
        value={value.impact ?? ""}
        options={[["", "not said"], ...same(IMPACTS)]}
        onChange={(v) => weigh((v || null) as Impact | null, value.urgency)}
      />
      <ChoiceField
        label="It is needed"
        value={value.urgency ?? ""}
        options={[
          ["", "not said"],
          ...URGENCIES.map((u) => [u, u === "can wait" ? "when there is time" : u] as Option),
        ]}
        onChange={(v) => weigh(value.impact, (v || null) as Urgency | null)}
      />
      <ChoiceField
        label={
          proposed
            ? proposed === value.priority
              ? "Priority, as agreed"
              : `Priority, agreed: ${proposed}`
            : "Priority"
        }
        value={value.priority}
        options={same(PRIORITIES)}
        onChange={(v) => set({ priority: v as Acceptance["priority"] })}
      />
    </>
  );
}
