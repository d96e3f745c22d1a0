"use client";
import { Check, Choice } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { useId, useState } from "react";
import type { DeskView } from "@/core/intake/desk-view";
import {
  IMPACTS,
  proposedPriority,
  URGENCIES,
  type Impact,
  type Urgency,
} from "@/core/intake/triage-rules";
import type { Acceptance } from "@/core/intake/acceptance";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { FoundFields } from "./found-fields";

type Option = [value: string, label: string];
const same = (values: readonly string[]): Option[] => values.map((v) => [v, v]);

/** What an accepted report becomes. */
export function AcceptFields({
  desk,
  value,
  several,
  onChange,
}: {
  desk: DeskView;
  value: Acceptance;
  several: boolean;
  onChange: (value: Acceptance) => void;
}) {
  const set = (change: Partial<Acceptance>) => onChange({ ...value, ...change });
  const areas = useId();
  const labels = useId();
  const [labelText, setLabelText] = useState(value.labels.join(", "));
  const choice = ({
    label,
    current,
    options,
    change,
    fixed = false,
  }: {
    label: string;
    current: string;
    options: Option[];
    change: (v: string) => Partial<Acceptance>;
    fixed?: boolean;
  }) => (
    <Field label={label}>
      <Select
        disabled={fixed}
        value={current}
        options={options.map(([v, l]) => ({ value: v, label: l }))}
        onChange={(next) => set(change(next))}
      />
    </Field>
  );
  const named = (none: string, list: { id: string; name: string }[]): Option[] => [
    ["", none],
    ...list.map((t) => [t.id, t.name] as Option),
  ];
  const weigh = (impact: Impact | null, urgency: Urgency | null): Partial<Acceptance> => ({
    impact,
    urgency,
    ...(impact && urgency ? { priority: proposedPriority(desk.rules.grid, impact, urgency) } : {}),
  });
  const proposed =
    value.impact && value.urgency
      ? proposedPriority(desk.rules.grid, value.impact, value.urgency)
      : null;
  // Where it was found may leave no choice of its place.
  const where = value.found?.where;
  const place =
    where === "in work"
      ? "part"
      : value.onBoard || where === "fix now"
        ? "board"
        : value.place.at === "below"
          ? value.place.itemId
          : value.place.at;
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
      {choice({
        label: "It hits",
        current: value.impact ?? "",
        options: [["", "not said"], ...same(IMPACTS)],
        change: (v) => weigh((v || null) as Impact | null, value.urgency),
      })}
      {choice({
        label: "It is needed",
        current: value.urgency ?? "",
        options: [
          ["", "not said"],
          ...URGENCIES.map((u) => [u, u === "can wait" ? "when there is time" : u] as Option),
        ],
        change: (v) => weigh(value.impact, (v || null) as Urgency | null),
      })}
      {choice({
        label: proposed
          ? proposed === value.priority
            ? "Priority, as agreed"
            : `Priority, agreed: ${proposed}`
          : "Priority",
        current: value.priority,
        options: same(PRIORITIES),
        change: (v) => ({ priority: v as Acceptance["priority"] }),
      })}
      {choice({
        label: "Severity",
        current: value.severity ?? "",
        options: [...same(SEVERITIES), ["", "not set"]],
        change: (v) => ({
          severity: (v || null) as Acceptance["severity"],
        }),
      })}
      {choice({
        label: "Type",
        current: value.typeId,
        options: desk.types.map((t) => [t.id, t.name]),
        change: (typeId) => ({ typeId, ...(typeId === "bug" ? {} : { found: null }) }),
      })}
      {choice({
        label: "Team",
        current: value.teamId ?? "",
        options: named("no team", desk.teams),
        change: (v) => ({
          teamId: v || null,
        }),
      })}
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
      {choice({
        label: "Where to",
        current: place,
        options: [
          ...(where === "in work" ? [["part", "a part of that item"] as Option] : []),
          ["board", "on the board at once"],
          ["top", "top of the backlog"],
          ["bottom", "end of the backlog"],
          ...desk.backlogTop.map((b) => [b.id, `below ${b.key} ${b.title}`] as Option),
        ],
        change: (v) =>
          v === "board"
            ? { onBoard: true, place: { at: "top" } }
            : {
                onBoard: false,
                place: v === "top" || v === "bottom" ? { at: v } : { at: "below", itemId: v },
              },
        fixed: where === "in work" || where === "fix now",
      })}
      {value.typeId === "bug" && !several && (
        <FoundFields desk={desk} value={value} onChange={onChange} />
      )}
      <Owner desk={desk} value={value.assigneeId} onChange={(assigneeId) => set({ assigneeId })} />
      <details className="col-span-full">
        <summary className="link w-fit text-[13px]">
          Class of service, origin, sprint, release, labels, who sees it
        </summary>
        <div className="mt-2 grid grid-cols-2 gap-x-3 gap-y-2.5 lg:grid-cols-4">
          {choice({
            label: "Class of service",
            current: value.classOfService,
            options: same(CLASSES_OF_SERVICE),
            change: (v) => ({
              classOfService: v as Acceptance["classOfService"],
            }),
          })}
          {choice({
            label: "Origin",
            current: value.origin,
            options: same(ORIGINS),
            change: (v) => ({
              origin: v as Acceptance["origin"],
            }),
          })}
          {choice({
            label: "Sprint",
            current: value.sprintId ?? "",
            options: named("none", desk.sprints),
            change: (v) => ({
              sprintId: v || null,
            }),
          })}
          {choice({
            label: "Release",
            current: value.releaseId ?? "",
            options: named("none", desk.releases),
            change: (v) => ({
              releaseId: v || null,
            }),
          })}
          <div className="col-span-2">
            <Field label="Labels, with commas between them">
              <TextInput
                list={labels}
                maxLength={400}
                value={labelText}
                onChange={(e) => {
                  setLabelText(e.target.value);
                  set({
                    labels: [
                      ...new Set(
                        e.target.value
                          .split(",")
                          .map((l) => l.trim())
                          .filter(Boolean),
                      ),
                    ],
                  });
                }}
              />
            </Field>
            <datalist id={labels}>
              {desk.labels.map((l) => (
                <option key={l} value={[...value.labels.slice(0, -1), l].join(", ")} />
              ))}
            </datalist>
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
    </div>
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
