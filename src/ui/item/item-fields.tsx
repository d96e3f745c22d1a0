"use client";
import { useState } from "react";
import {
  CLASSES_OF_SERVICE,
  ORIGINS,
  PRIORITIES,
  SEVERITIES,
  type EditableFields,
} from "@/core/item/fields";
import { tellProblem } from "@/ui/kit/notice";
import type { ItemHandle } from "./use-item";

type Option = { value: string; label: string };
const plain = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, label: value }));
const named = (rows: readonly { id: string; name: string }[]): Option[] =>
  rows.map((r) => ({ value: r.id, label: r.name }));

/** The fields of an item, each edited in place and stored at once. */
export function ItemFields({ handle }: { handle: ItemHandle }) {
  const { view, edit, reload } = handle;
  const { item } = view;
  const locked = !view.rights.edit;
  const store = (changes: Partial<EditableFields>) =>
    edit(changes).catch((error) => {
      tellProblem(error);
      void reload();
    });
  const workflowId = view.types.find((t) => t.id === item.typeId)?.workflowId;
  const pick = (
    label: string,
    value: string,
    options: Option[],
    onPick: (value: string) => unknown,
  ) => (
    <label className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
      <select
        className="field field-plain"
        disabled={locked}
        value={value}
        onChange={(e) => void onPick(e.target.value)}
      >
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  );
  const choice = (label: string, field: keyof EditableFields, options: Option[], none?: string) =>
    pick(
      label,
      (item[field] as string | null) ?? "",
      none === undefined ? options : [{ value: "", label: none }, ...options],
      (value) => store({ [field]: value || null }),
    );
  return (
    <div className="grid grid-cols-[auto_1fr_auto_1fr] max-sm:grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {choice("Assignee", "assigneeId", named(view.people), "Nobody yet")}
      {choice("Reviewer", "reviewerId", named(view.people), "Nobody yet")}
      {choice("Class", "classOfService", plain(CLASSES_OF_SERVICE))}
      {choice("Team", "teamId", named(view.teams), "No team")}
      {choice("Priority", "priority", plain(PRIORITIES))}
      {choice("Severity", "severity", plain(SEVERITIES), "Not set")}
      {choice(
        "Type",
        "typeId",
        named(
          view.types.filter(
            (t) => t.workflowId === workflowId && (t.removedAt === null || t.id === item.typeId),
          ),
        ),
      )}
      {choice("Origin", "origin", plain(ORIGINS))}
      {choice("Sprint", "sprintId", named(view.sprints), "No sprint")}
      {choice("Release", "releaseId", named(view.releases), "No release")}
      {pick(
        "Seen by",
        item.restricted ? "few" : "all",
        [
          { value: "all", label: "the whole project" },
          { value: "few", label: "leads and who works on it" },
        ],
        (value) => store({ restricted: value === "few" }),
      )}
      <Typed
        label="Estimate"
        type="number"
        value={item.estimate === null ? "" : String(item.estimate)}
        locked={locked}
        onStore={(text) => store({ estimate: text === "" ? null : Number(text) })}
      />
      <Typed
        label="Hours left"
        type="number"
        value={item.remainingHours === null ? "" : String(item.remainingHours)}
        locked={locked}
        onStore={(text) => store({ remainingHours: text === "" ? null : Number(text) })}
      />
      <Typed
        label="Due"
        type="date"
        value={item.dueOn ?? ""}
        locked={locked}
        onStore={(text) => store({ dueOn: text || null })}
      />
      <Typed
        label="Labels"
        type="text"
        wide
        value={item.labels.join(", ")}
        locked={locked}
        onStore={(text) =>
          store({
            labels: [
              ...new Set(
                text
                  .split(",")
                  .map((l) => l.trim().slice(0, 40))
                  .filter(Boolean),
              ),
            ].slice(0, 20),
          })
        }
      />
      <Typed
        label="Where"
        type="text"
        wide
        value={item.place ?? ""}
        locked={locked}
        onStore={(text) => store({ place: text || null })}
      />
    </div>
  );
}

function Typed({
  label,
  type,
  value,
  locked,
  wide = false,
  onStore,
}: {
  label: string;
  type: "number" | "date" | "text";
  value: string;
  locked: boolean;
  wide?: boolean;
  onStore: (text: string) => Promise<unknown>;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft !== value) void onStore(draft).finally(() => setDraft(null));
    else setDraft(null);
  };
  return (
    <label className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
      <input
        className={`field field-plain ${wide ? "col-span-3" : ""}`}
        type={type}
        min={type === "number" ? 0 : undefined}
        step={type === "number" ? "any" : undefined}
        maxLength={type === "text" ? 200 : undefined}
        disabled={locked}
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
    </label>
  );
}
