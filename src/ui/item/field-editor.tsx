"use client";
import { useState } from "react";
import type { ItemField, NamedThings } from "@/core/item/fields";
import { DateInput } from "@/ui/kit/date-input";
import { TextInput } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions, type Option } from "@/ui/kit/select";
import { TermEditor } from "./terms/term-editor";

/** What a field that names something of a project can be chosen from. */
export type NamedChoices = Record<
  NamedThings,
  readonly { id: string; name: string; past?: boolean }[]
>;

/** What can be chosen in a field of an item. */
export function choicesOf({ editor }: ItemField, named: NamedChoices): Option[] {
  if (editor.kind !== "choice") return [];
  return typeof editor.options === "string"
    ? namedOptions(named[editor.options])
    : wordOptions(editor.options);
}

/** One field of an item, in two cells of a grid: what it is called, and how it is edited. */
export function ItemFieldEditor({
  field: { editor, label, panel },
  value,
  options,
  projectKey,
  locked,
  onStore,
}: {
  field: ItemField;
  value: unknown;
  options: Option[];
  projectKey: string;
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
    case "terms":
      return (
        <div className="contents">
          <span className="col-start-1 self-start pt-1 text-[12.5px] text-ink-soft">{label}</span>
          <div className={`py-0.5 ${typed.wide ? "col-span-3 max-sm:col-span-1" : ""}`}>
            <TermEditor
              projectKey={projectKey}
              kind={editor.of}
              names={value as string[]}
              locked={locked}
              onChange={(names) => void onStore(names)}
            />
          </div>
        </div>
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
        options={options}
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
      <span className={`self-center text-[12.5px] text-ink-soft ${wide ? "col-start-1" : ""}`}>
        {label}
      </span>
      <TextInput
        plain
        className={wide ? "col-span-3" : ""}
        type={type}
        min={type === "number" ? 0 : undefined}
        step={type === "number" ? "any" : undefined}
        maxLength={type === "text" ? 200 : undefined}
        disabled={locked}
        placeholder="none"
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
    </label>
  );
}
