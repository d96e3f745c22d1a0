"use client";
import { twinBoard, twinColumn } from "@/core/board/same-name";
import { FormProblem } from "@/ui/kit/note";
import { Select } from "@/ui/kit/select";
import { Check } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { useState } from "react";
import { COLUMNS_BY, COLUMNS_BY_WORDS, type DesignedColumns } from "@/core/board/columns-by";
import { EVERY_ITEM, type WrittenCondition } from "@/core/condition/condition";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import { ColumnsEditor, emptyColumn, proposedColumns } from "./columns-editor";
import { FormFooter } from "@/ui/kit/form-footer";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { useWritten } from "@/ui/condition/use-written";
import { v7 as newId } from "uuid";

/** A board as it begins: the stages of the main workflow. */
export function newBoard(view: DesignView): BoardDesign {
  const followed = view.workflows.filter((w) => w.typeNames.length > 0);
  return {
    id: newId(),
    name: "",
    version: 0,
    columnsBy: "state",
    scope: null,
    columns: proposedColumns(followed.slice(0, 1)),
  };
}

/**
 * Everything that a board leaves open: which items, what its columns are, and what each column
 * shows.
 */
export function BoardEditor({
  board,
  view,
  onSave,
  onCancel,
  onRemove,
}: {
  board: BoardDesign;
  view: DesignView;
  onSave: (board: BoardDesign) => void;
  onCancel: () => void;
  onRemove: (() => void) | null;
}) {
  const [draft, setDraft] = useState(board);
  const set = (change: Partial<BoardDesign>) => setDraft((d) => ({ ...d, ...change }));
  const scope = useWritten(draft.scope, (next) => set({ scope: next }));
  const { vocabulary } = view.around;
  const hasColumns = draft.columnsBy === "state" || draft.columnsBy === "free";
  const choose = (columnsBy: DesignedColumns) => {
    const columns =
      columnsBy === "state"
        ? proposedColumns(view.workflows.filter((w) => w.typeNames.length > 0).slice(0, 1))
        : columnsBy === "free"
          ? ["To look at", "Later"].map(emptyColumn)
          : [];
    set({ columnsBy, columns });
  };
  const twin = twinBoard(view.boards, draft);
  const ready =
    draft.name.trim() !== "" &&
    !twin &&
    (!hasColumns ||
      (draft.columns.length > 0 &&
        twinColumn(draft.columns) === null &&
        draft.columns.every(
          (c) => c.stage.trim() && (draft.columnsBy === "free" || c.stateIds.length > 0),
        )));
  return (
    <form
      className="mt-2 flex flex-col gap-4 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onSave(draft);
      }}
    >
      <div className="grid grid-cols-2 gap-4">
        <Field label="Name">
          <TextInput
            required
            autoFocus
            maxLength={60}
            value={draft.name}
            onChange={(e) => set({ name: e.target.value })}
            placeholder="What it is for"
          />
        </Field>
        <Field label="Its columns are">
          <Select
            value={draft.columnsBy}
            options={COLUMNS_BY.map((by) => ({ value: by, label: COLUMNS_BY_WORDS[by] }))}
            onChange={(by) => choose(by as DesignedColumns)}
          />
        </Field>
      </div>
      {twin && <FormProblem>There is a board “{twin.name}” already.</FormProblem>}
      <Scope
        scope={scope.written}
        view={view}
        onEvery={(every) => set({ scope: every ? null : EVERY_ITEM })}
        onChange={scope.write}
      />
      {hasColumns && (
        <ColumnsEditor board={draft} view={view} onChange={(columns) => set({ columns })} />
      )}
      {!hasColumns && (
        <p className="text-[13px] text-ink-soft">
          A drop into a column changes the item:{" "}
          {draft.columnsBy === "parent" ? "it stands under another one" : `its ${draft.columnsBy}`}.
          Nothing else of it changes.
        </p>
      )}
      <FormFooter
        send={draft.version === 0 ? "Make the board" : "Store the board"}
        disabled={!ready || scope.unfinished}
        onLeave={onCancel}
        onRemove={onRemove ?? undefined}
      />
      {vocabulary.states.length === 0 && (
        <p className="text-ink-soft">This project has no states yet.</p>
      )}
    </form>
  );
}

function Scope({
  scope,
  view,
  onEvery,
  onChange,
}: {
  scope: WrittenCondition | null;
  view: DesignView;
  onEvery: (every: boolean) => void;
  onChange: (scope: WrittenCondition) => void;
}) {
  const { vocabulary } = view.around;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">Which items it shows</legend>
      <Check checked={scope === null} onChange={onEvery} className="text-[13px]">
        all of the project
      </Check>
      {scope !== null && (
        <ConditionEditor condition={scope} vocabulary={vocabulary} onChange={onChange} />
      )}
    </fieldset>
  );
}
