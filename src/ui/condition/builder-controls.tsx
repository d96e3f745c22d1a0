"use client";
import {
  update,
  type ActionProps,
  type NotToggleProps,
  type VersatileSelectorProps,
} from "react-querybuilder";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Select } from "@/ui/kit/select";
import type { BuilderGroup } from "./query";

/** Which fact, which comparison, how a group is joined. */
export function BuilderSelect(props: VersatileSelectorProps) {
  const { value, handleOnChange, title, disabled } = props;
  // The builder is given flat lists alone (condition-editor.tsx).
  const offered = props.options as readonly { name: string; label: string }[];
  return (
    <Select
      className="!w-auto"
      label={title}
      title={title}
      disabled={disabled}
      value={String(value ?? "")}
      options={offered.map(({ name, label }) => ({ value: name, label }))}
      onChange={(next) => handleOnChange(next as never)}
    />
  );
}

/** Adds a comparison or a group. */
export function BuilderAdd({ label, title, handleOnClick, disabled }: ActionProps) {
  return (
    <Button look="plain" small data-begin title={title} disabled={disabled} onClick={handleOnClick}>
      {label}
    </Button>
  );
}

/** Takes a comparison or a group out. */
export function BuilderRemove({ label, title, handleOnClick, disabled }: ActionProps) {
  return (
    <Button
      look="quiet"
      small
      title={title}
      aria-label={title}
      disabled={disabled}
      onClick={handleOnClick}
    >
      {label}
    </Button>
  );
}

/** What a group is about. */
const ABOUT = [
  { value: "", label: "of the item" },
  { value: "children", label: "of a child" },
  { value: "parent", label: "of what it stands under" },
];

/** Says whether a group is about the item, a child or its parent, and turns it round. */
export function BuilderNot({
  checked,
  handleOnChange,
  label,
  title,
  disabled,
  ruleGroup,
  path,
  schema,
}: NotToggleProps) {
  const { among = "" } = ruleGroup as BuilderGroup;
  const about = (next: string) =>
    schema.dispatchQuery(
      update(schema.getQuery(), "among" as never, next === "" ? undefined : next, path),
    );
  return (
    <>
      <Select
        className="!w-auto"
        label="What the group is about"
        disabled={disabled}
        value={among}
        options={ABOUT}
        onChange={about}
      />
      <Check
        className="text-[12.5px]"
        title={title}
        disabled={disabled}
        checked={checked ?? false}
        onChange={handleOnChange}
      >
        {label}
      </Check>
    </>
  );
}
