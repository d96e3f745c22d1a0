"use client";
import { useState, type FormEvent } from "react";
import { columnWords } from "@/core/board/column";
import { LIMITED_FIELDS, type LimitedField } from "@/core/board/limited";
import type { LimitRequest } from "@/core/board/request";
import { itemField } from "@/core/item/fields";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import { Button, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { namedOptions, Select, wordOptions, type Option } from "@/ui/kit/select";
import type { LimitEdit } from "./use-limit-edit";

const EVERYTHING = "";

/** A limit for a part of what stands somewhere: a team's, a person's, a class of service. */
export function AddLimit({
  view,
  board,
  onAdd,
}: {
  view: DesignView;
  board: BoardDesign;
  onAdd: LimitEdit["limit"];
}) {
  const [open, setOpen] = useState(false);
  const [columnId, setColumnId] = useState(EVERYTHING);
  const [field, setField] = useState<LimitedField>("teamId");
  const [value, setValue] = useState("");
  const [max, setMax] = useState("");
  const values = valuesOf(field, view);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const on: LimitRequest["on"] =
      columnId === EVERYTHING ? { kind: "board" } : { kind: "column", columnId };
    const row = { on, of: { field, value }, limit: null };
    if (await onAdd(board, row, { max: Number(max) })) {
      setOpen(false);
      setMax("");
    }
  };
  if (!open)
    return (
      <TextButton className="mt-2 text-[13px]" onClick={() => setOpen(true)}>
        Add a limit for a part: a team, a person, a class of service
      </TextButton>
    );
  const columns = board.columns.filter((c) => c.part !== "finished");
  return (
    <form
      aria-label="Add a limit for a part"
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(e) => void add(e)}
    >
      <span>In</span>
      <Select
        label="Where the limit is"
        className="!w-48"
        value={columnId}
        options={[
          { value: EVERYTHING, label: "everything in progress" },
          ...columns.map((c) => ({ value: c.id, label: columnWords(c) })),
        ]}
        onChange={setColumnId}
      />
      <span>where the</span>
      <Select
        label="Field that the limit is for"
        className="!w-40"
        value={field}
        options={LIMITED_FIELDS.map((f) => ({ value: f, label: itemField(f).words }))}
        onChange={(next) => {
          setField(next);
          setValue("");
        }}
      />
      <span>is</span>
      <Select
        label="Value that the limit is for"
        className="!w-44"
        value={value}
        placeholder="Choose"
        options={values}
        onChange={setValue}
      />
      <span>at most</span>
      <TextInput
        aria-label="At most"
        type="number"
        min={0}
        step={1}
        required
        className="!w-16"
        value={max}
        onChange={(e) => setMax(e.target.value)}
      />
      <Button type="submit" small disabled={value === ""}>
        Add limit
      </Button>
      <Button look="quiet" small onClick={() => setOpen(false)}>
        Cancel
      </Button>
    </form>
  );
}

/** The values that a field can have in a project. */
function valuesOf(field: LimitedField, { around, types }: DesignView): Option[] {
  const { editor } = itemField(field);
  if (editor.kind !== "choice") return [];
  if (editor.options === "types") return namedOptions(types);
  if (typeof editor.options === "string") return namedOptions(around.vocabulary[editor.options]);
  return wordOptions(editor.options);
}
