"use client";
import { TextInput } from "@/ui/kit/field";
import { DateInput } from "@/ui/kit/date-input";
import { Select } from "@/ui/kit/select";
import { useState } from "react";
import {
  EDITABLE_FIELDS,
  itemField,
  type EditableFields,
  type ItemField,
} from "@/core/item/fields";
import type { ItemView } from "@/core/item/item-view";
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
  const store = (changes: Partial<EditableFields>) =>
    edit(changes).catch((error) => {
      tellProblem(error);
      void reload();
    });
  return (
    <div className="grid grid-cols-[auto_1fr_auto_1fr] max-sm:grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {EDITABLE_FIELDS.filter((field) => itemField(field).panel).map((field) => (
        <ItemFieldEditor
          key={field}
          field={itemField(field)}
          value={view.item[field]}
          options={optionsOf(itemField(field), view)}
          locked={!view.rights.edit}
          onStore={(value) => store({ [field]: value })}
        />
      ))}
    </div>
  );
}

/** What can be chosen in a field of an item. */
function optionsOf({ editor }: ItemField, view: ItemView): Option[] {
  if (editor.kind !== "choice") return [];
  if (typeof editor.options !== "string") return plain(editor.options);
  if (editor.options !== "types") return named(view[editor.options]);
  // Types that keep it in its workflow; one that is not offered any more stays where it is.
  const { typeId } = view.item;
  const workflowId = view.types.find((t) => t.id === typeId)?.workflowId;
  return named(
    view.types.filter(
      (t) => t.workflowId === workflowId && (t.removedAt === null || t.id === typeId),
    ),
  );
}

/** Labels from a line of them: at most twenty, each once. */
const labelsOf = (line: string): string[] => {
  const labels = line.split(",").map((l) => l.trim().slice(0, 40));
  return [...new Set(labels.filter(Boolean))].slice(0, 20);
};

function ItemFieldEditor({
  field: { editor, label, panel },
  value,
  options,
  locked,
  onStore,
}: {
  field: ItemField;
  value: unknown;
  options: Option[];
  locked: boolean;
  onStore: (value: unknown) => Promise<unknown>;
}) {
  const said = value === null ? "" : String(value);
  const typed = { label, locked, wide: panel === "wide" };
  switch (editor.kind) {
    case "choice": {
      const none = editor.none === undefined ? [] : [{ value: "", label: editor.none }];
      const offered = [...none, ...options];
      return <Pick {...typed} value={said} options={offered} onPick={(v) => onStore(v || null)} />;
    }
    case "flag": {
      const offered = [
        { value: "false", label: editor.no },
        { value: "true", label: editor.yes },
      ];
      return (
        <Pick {...typed} value={said} options={offered} onPick={(v) => onStore(v === "true")} />
      );
    }
    case "labels":
      return (
        <Typed
          {...typed}
          type="text"
          value={(value as string[]).join(", ")}
          onStore={(text) => onStore(labelsOf(text))}
        />
      );
    case "number":
      return (
        <Typed
          {...typed}
          type="number"
          value={said}
          onStore={(text) => onStore(text === "" ? null : Number(text))}
        />
      );
    case "date":
    case "text":
      return (
        <Typed
          {...typed}
          type={editor.kind}
          value={said}
          onStore={(text) => onStore(text || null)}
        />
      );
  }
}

function Pick({
  label,
  value,
  options,
  locked,
  onPick,
}: {
  label: string;
  value: string;
  options: Option[];
  locked: boolean;
  onPick: (value: string) => Promise<unknown>;
}) {
  return (
    <label className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
      <Select
        plain
        disabled={locked}
        value={value}
        options={options.map((o) => ({ value: o.value, label: o.label }))}
        onChange={(next) => void onPick(next)}
      />
    </label>
  );
}

function Typed({
  label,
  type,
  value,
  locked,
  wide,
  onStore,
}: {
  label: string;
  type: "number" | "date" | "text";
  value: string;
  locked: boolean;
  wide: boolean;
  onStore: (text: string) => Promise<unknown>;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft !== value) void onStore(draft).finally(() => setDraft(null));
    else setDraft(null);
  };
  if (type === "date")
    return (
      <label className="contents">
        <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
        <DateInput
          plain
          className=""
          disabled={locked}
          value={value}
          onChange={(day) => void onStore(day)}
        />
      </label>
    );
  return (
    <label className="contents">
      <span className="self-center text-[12.5px] text-ink-soft">{label}</span>
      <TextInput
        plain
        className={wide ? "col-span-3" : ""}
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
