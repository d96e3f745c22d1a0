"use client";
import { Note } from "@/ui/kit/note";
import { Select } from "@/ui/kit/select";
import { AddMenu } from "@/ui/kit/add-menu";
import { Check } from "@/ui/kit/check";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { useState } from "react";
import type { ColumnPart } from "@/core/board/column";
import { COLUMNS_BY, COLUMNS_BY_WORDS, type ColumnsBy } from "@/core/board/columns-by";
import { proposeColumns } from "@/core/board/propose-columns";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { conditionSentence } from "@/core/condition/sentence";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { isInProgress } from "@/core/workflow/state";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { X } from "lucide-react";
import { v7 as newId } from "uuid";

type EditedColumn = BoardDesign["columns"][number];

const PART_WORDS: Record<ColumnPart, string> = {
  waiting: "waits",
  working: "is worked on",
  finished: "is finished",
};

/** The columns that the stages of workflows propose, as a board would have them. */
export function proposedColumns(workflows: readonly Workflow[]): EditedColumn[] {
  return proposeColumns(workflows).map((c) => ({ ...c, id: newId() }));
}

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
  const { vocabulary } = view.around;
  const hasColumns = draft.columnsBy === "state" || draft.columnsBy === "free";
  const choose = (columnsBy: ColumnsBy) => {
    const columns =
      columnsBy === "state"
        ? proposedColumns(view.workflows.filter((w) => w.typeNames.length > 0).slice(0, 1))
        : columnsBy === "free"
          ? ["To look at", "Later"].map((stage) => ({
              id: newId(),
              stage,
              name: "",
              part: "working" as const,
              stateIds: [],
            }))
          : [];
    set({ columnsBy, columns });
  };
  const ready =
    draft.name.trim() !== "" &&
    (!hasColumns ||
      (draft.columns.length > 0 &&
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
            placeholder="Quay gates this week"
          />
        </Field>
        <Field label="Its columns are">
          <Select
            value={draft.columnsBy}
            options={COLUMNS_BY.map((by) => ({ value: by, label: COLUMNS_BY_WORDS[by] }))}
            onChange={(by) => choose(by as ColumnsBy)}
          />
        </Field>
      </div>
      <Scope scope={draft.scope} view={view} onChange={(scope) => set({ scope })} />
      {hasColumns && <Columns draft={draft} view={view} onChange={(columns) => set({ columns })} />}
      {!hasColumns && (
        <p className="text-[13px] text-ink-soft">
          A drop into a column changes the item:{" "}
          {draft.columnsBy === "parent" ? "it stands under another one" : `its ${draft.columnsBy}`}.
          Nothing else of it changes.
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="accent" small disabled={!ready}>
          {draft.version === 0 ? "Make the board" : "Store the board"}
        </Button>
        <Button look="quiet" small onClick={onCancel}>
          Leave it
        </Button>
        {onRemove && (
          <Button look="danger" small className="ml-auto" onClick={onRemove}>
            Take the board out
          </Button>
        )}
      </div>
      {vocabulary.states.length === 0 && (
        <p className="text-ink-soft">This project has no states yet.</p>
      )}
    </form>
  );
}

function Scope({
  scope,
  view,
  onChange,
}: {
  scope: Condition | null;
  view: DesignView;
  onChange: (scope: Condition | null) => void;
}) {
  const { vocabulary } = view.around;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">Which items it shows</legend>
      <Check
        checked={scope === null}
        onChange={(on) => onChange(on ? null : EVERY_ITEM)}
        className="text-[13px]"
      >
        all of the project
      </Check>
      {scope !== null && (
        <ConditionEditor condition={scope} vocabulary={vocabulary} onChange={onChange} />
      )}
      {scope !== null && <p className="sr-only">{conditionSentence(scope, vocabulary)}</p>}
    </fieldset>
  );
}

function Columns({
  draft,
  view,
  onChange,
}: {
  draft: BoardDesign;
  view: DesignView;
  onChange: (columns: EditedColumn[]) => void;
}) {
  const { columns } = draft;
  const byState = draft.columnsBy === "state";
  const stateName = new Map(view.workflows.flatMap((w) => w.states.map((s) => [s.id, s.name])));
  const shown = new Set(columns.flatMap((c) => c.stateIds));
  const used = view.workflows.filter((w) => w.states.some((s) => shown.has(s.id)));
  const without = used.flatMap((w) =>
    statesInOrder(w).filter((s) => isInProgress(s.kind) && !shown.has(s.id)),
  );
  const change = (id: string, more: Partial<EditedColumn>) =>
    onChange(columns.map((c) => (c.id === id ? { ...c, ...more } : c)));
  const move = (at: number, by: number) => {
    const next = [...columns];
    next.splice(at + by, 0, ...next.splice(at, 1));
    onChange(next);
  };
  const addable = view.workflows.flatMap((w) =>
    statesInOrder(w)
      .filter((s) => !shown.has(s.id))
      .map((s) => ({
        value: s.id,
        label: view.workflows.length > 1 ? `${s.name} (${w.name})` : s.name,
      })),
  );
  return (
    <div role="group" aria-label="Columns">
      <div className="flex items-center gap-3">
        <p className="flex-1 text-[12px] font-semibold">
          {byState ? "Columns, in order" : "Lists, in order"}
        </p>
        {byState && (
          <AddMenu
            label="Propose them from the stages of…"
            options={[
              ...view.workflows.map((w) => ({ value: w.id, label: w.name })),
              ...(view.workflows.length > 1
                ? [{ value: "all", label: "all workflows together" }]
                : []),
            ]}
            onAdd={(id) =>
              onChange(proposedColumns(view.workflows.filter((w) => id === "all" || w.id === id)))
            }
          />
        )}
      </div>
      <ul>
        {columns.map((c, i) => (
          <li
            key={c.id}
            className="flex flex-wrap items-center gap-2 border-t border-line py-1"
            data-column-row={c.stage}
          >
            <TextInput
              className="!w-36"
              aria-label="Stage"
              required
              maxLength={60}
              value={c.stage}
              onChange={(e) => change(c.id, { stage: e.target.value })}
            />
            {byState && (
              <>
                <TextInput
                  className="!w-28"
                  aria-label={`Part of ${c.stage}`}
                  maxLength={60}
                  value={c.name}
                  placeholder="part"
                  onChange={(e) => change(c.id, { name: e.target.value })}
                />
                <span className="w-32">
                  <Select
                    label={`What happens in ${c.stage}`}
                    value={c.part}
                    options={Object.entries(PART_WORDS).map(([value, label]) => ({ value, label }))}
                    onChange={(part) => change(c.id, { part: part as ColumnPart })}
                  />
                </span>
                <span className="flex min-w-0 flex-1 flex-wrap items-center gap-1">
                  {c.stateIds.map((id) => (
                    <button
                      key={id}
                      type="button"
                      className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5 text-[12.5px]"
                      aria-label={`${stateName.get(id) ?? "A state"} not in this column`}
                      onClick={() => change(c.id, { stateIds: c.stateIds.filter((s) => s !== id) })}
                    >
                      {stateName.get(id) ?? "a state that is gone"}{" "}
                      <X size={12} aria-hidden="true" />
                    </button>
                  ))}
                  {c.stateIds.length === 0 && (
                    <span className="text-[12.5px] text-alarm">shows no state</span>
                  )}
                  {addable.length > 0 && (
                    <AddMenu
                      label="and…"
                      options={addable}
                      onAdd={(id) => change(c.id, { stateIds: [...c.stateIds, id] })}
                    />
                  )}
                </span>
              </>
            )}
            <span className={`flex gap-1 ${byState ? "" : "ml-auto"}`}>
              <Button
                look="quiet"
                small
                className="!px-1"
                aria-label={`${c.stage} ${c.name} further left`}
                disabled={i === 0}
                onClick={() => move(i, -1)}
              >
                ↑
              </Button>
              <Button
                look="quiet"
                small
                className="!px-1"
                aria-label={`${c.stage} ${c.name} further right`}
                disabled={i === columns.length - 1}
                onClick={() => move(i, 1)}
              >
                ↓
              </Button>
              <Button
                look="quiet"
                small
                className="!px-1"
                aria-label={`Take out ${c.stage} ${c.name}`}
                onClick={() => onChange(columns.filter((x) => x.id !== c.id))}
              >
                <X size={13} aria-hidden="true" />
              </Button>
            </span>
          </li>
        ))}
      </ul>
      <Button
        small
        className="mt-1"
        onClick={() =>
          onChange([
            ...columns,
            {
              id: newId(),
              stage: byState ? "New column" : "New list",
              name: "",
              part: "working",
              stateIds: [],
            },
          ])
        }
      >
        {byState ? "Add a column" : "Add a list"}
      </Button>
      {byState && without.length > 0 && (
        <Note kind="look" className="mt-2">
          Without a column: {without.map((s) => s.name).join(", ")}. Items in{" "}
          {without.length === 1 ? "it" : "them"} are not on this board.
        </Note>
      )}
    </div>
  );
}
