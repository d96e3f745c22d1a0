"use client";
import { X } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { partOf, type ColumnPart } from "@/core/board/column";
import { twinColumn } from "@/core/board/same-name";
import { columnsByKind, proposeColumns, type ProposedColumn } from "@/core/board/propose-columns";
import type { BoardDesign, DesignView } from "@/core/workflow/design-view";
import { isInProgress } from "@/core/workflow/state";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { ListEditor } from "@/ui/kit/list-editor";
import { FormProblem, Note } from "@/ui/kit/note";
import { Select, type Option } from "@/ui/kit/select";

type EditedColumn = BoardDesign["columns"][number];

const PART_WORDS: Record<ColumnPart, string> = {
  waiting: "waits",
  working: "is worked on",
  finished: "is finished",
};
const PART_OPTIONS = Object.entries(PART_WORDS).map(([value, label]) => ({ value, label }));

/** The columns that the stages of workflows propose, as a board would have them. */
export function proposedColumns(workflows: readonly Workflow[]): EditedColumn[] {
  return proposeColumns(workflows).map(asEdited);
}

const asEdited = (column: ProposedColumn): EditedColumn => ({ ...column, id: newId() });

/** What columns are proposed from, beside the stages of one workflow. */
const ALL = "all";
const KINDS = "kinds";

/** A column, or a list of a free board, that shows no state yet. */
export const emptyColumn = (stage: string): EditedColumn => ({
  id: newId(),
  stage,
  name: "",
  part: "working",
  stateIds: [],
});

const NEW_COLUMN = "New column";

/** A column with one more state; one that nobody has named yet is called as its first state is. */
function withState(
  column: EditedColumn,
  stateId: string,
  workflows: readonly Workflow[],
): EditedColumn {
  const stateIds = [...column.stateIds, stateId];
  const state = workflows.flatMap((w) => w.states).find((s) => s.id === stateId);
  if (!state || column.stateIds.length > 0 || column.stage !== NEW_COLUMN)
    return { ...column, stateIds };
  const [stage, name] = state.stage ? [state.stage, state.name] : [state.name, ""];
  return { ...column, stage, name, part: partOf(state.kind), stateIds };
}

/** Takes the focus, with all that is in it ready to be written over. */
const selectAll = (field: HTMLInputElement | null) => {
  field?.focus();
  field?.select();
};

/** The columns of a board of the process, or the lists of a free one, in order. */
export function ColumnsEditor({
  board,
  view: { workflows },
  onChange,
}: {
  board: BoardDesign;
  view: DesignView;
  onChange: (columns: EditedColumn[]) => void;
}) {
  const { columns } = board;
  const byState = board.columnsBy === "state";
  const shown = new Set(columns.flatMap((c) => c.stateIds));
  const addable = workflows.flatMap((w) =>
    statesInOrder(w)
      .filter((s) => !shown.has(s.id))
      .map((s) => ({
        value: s.id,
        label: workflows.length > 1 ? `${s.name} (${w.name})` : s.name,
      })),
  );
  const change = (id: string, more: Partial<EditedColumn>) =>
    onChange(columns.map((c) => (c.id === id ? { ...c, ...more } : c)));
  const move = (from: number, to: number) => {
    const without = columns.toSpliced(from, 1);
    onChange(without.toSpliced(to, 0, columns[from]));
  };
  // The row whose name is to be written next.
  const [fresh, setFresh] = useState<string | null>(null);
  const add = (stateId?: string) => {
    const made = emptyColumn(byState ? NEW_COLUMN : "New list");
    onChange([...columns, stateId ? withState(made, stateId, workflows) : made]);
    setFresh(made.id);
  };
  const twin = twinColumn(columns);
  return (
    <div>
      <div className="flex items-center gap-3">
        <p className="flex-1 text-[12px] font-semibold">
          {byState ? "Columns, in order" : "Lists, in order"}
        </p>
        {byState && <ProposeFrom workflows={workflows} onPropose={onChange} />}
      </div>
      <ListEditor
        label="Columns"
        items={columns}
        keyOf={(c) => c.id}
        nameOf={(c) => `${c.stage} ${c.name}`.trim()}
        onMove={move}
        onRemove={(at) => onChange(columns.toSpliced(at, 1))}
        row={(column) => (
          <ColumnRow
            column={column}
            byState={byState}
            workflows={workflows}
            addable={addable}
            isFresh={column.id === fresh}
            onChange={(more) => change(column.id, more)}
          />
        )}
      >
        <Button small className="mt-1" onClick={() => add()}>
          {byState ? "Add a column" : "Add a list"}
        </Button>
      </ListEditor>
      {twin && (
        <FormProblem>
          Two {byState ? "columns" : "lists"} are called “{`${twin.stage} ${twin.name}`.trim()}”.
        </FormProblem>
      )}
      {byState && <Uncovered workflows={workflows} shown={shown} onAdd={add} />}
    </div>
  );
}

function ProposeFrom({
  workflows,
  onPropose,
}: {
  workflows: readonly Workflow[];
  onPropose: (columns: EditedColumn[]) => void;
}) {
  const several = workflows.length > 1;
  const propose = (id: string) => {
    if (id === KINDS) return onPropose(columnsByKind(workflows).map(asEdited));
    onPropose(proposedColumns(workflows.filter((w) => id === ALL || w.id === id)));
  };
  return (
    <AddMenu
      label="Propose them from…"
      options={[
        ...workflows.map((w) => ({ value: w.id, label: `the stages of ${w.name}` })),
        ...(several ? [{ value: ALL, label: "the stages of all workflows together" }] : []),
        { value: KINDS, label: "the kinds of state: waiting, worked on, finished" },
      ]}
      onAdd={propose}
    />
  );
}

/** One column: what it is called, what happens in it, and the states it shows. */
function ColumnRow({
  column,
  byState,
  workflows,
  addable,
  isFresh,
  onChange,
}: {
  column: EditedColumn;
  byState: boolean;
  workflows: readonly Workflow[];
  addable: readonly Option[];
  /** It was just added: its name is written first. */
  isFresh: boolean;
  onChange: (more: Partial<EditedColumn>) => void;
}) {
  const { stage, name, part, stateIds } = column;
  const nameOfState = (id: string) =>
    workflows.flatMap((w) => w.states).find((s) => s.id === id)?.name;
  return (
    <div
      className="flex min-w-0 flex-1 flex-wrap items-center gap-2 border-t border-line py-1"
      data-column-row={stage}
    >
      <TextInput
        ref={isFresh ? selectAll : undefined}
        className="!w-36"
        aria-label={byState ? "Stage" : "Name of the list"}
        required
        maxLength={60}
        value={stage}
        onChange={(e) => onChange({ stage: e.target.value })}
      />
      {byState && (
        <>
          <TextInput
            className="!w-28"
            aria-label={`Part of ${stage}`}
            maxLength={60}
            value={name}
            placeholder="part"
            onChange={(e) => onChange({ name: e.target.value })}
          />
          <span className="w-32">
            <Select
              label={`What happens in ${stage}`}
              value={part}
              options={PART_OPTIONS}
              onChange={(next) => onChange({ part: next as ColumnPart })}
            />
          </span>
          <span className="flex min-w-0 flex-1 flex-wrap items-center gap-1">
            {stateIds.map((id) => (
              <button
                key={id}
                type="button"
                className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5 text-[12.5px]"
                aria-label={`${nameOfState(id) ?? "A state"} not in this column`}
                onClick={() => onChange({ stateIds: stateIds.filter((s) => s !== id) })}
              >
                {nameOfState(id) ?? "a state that is gone"} <X size={12} aria-hidden="true" />
              </button>
            ))}
            {stateIds.length === 0 && (
              <span className="text-[12.5px] text-alarm">shows no state</span>
            )}
            {addable.length > 0 && (
              <AddMenu
                label={stateIds.length === 0 ? "a state that no column shows…" : "and…"}
                options={addable}
                onAdd={(id) => onChange(withState(column, id, workflows))}
              />
            )}
          </span>
        </>
      )}
    </div>
  );
}

/** The states in progress of the workflows a board shows that none of its columns covers. */
function Uncovered({
  workflows,
  shown,
  onAdd,
}: {
  workflows: readonly Workflow[];
  shown: ReadonlySet<string>;
  onAdd: (stateId: string) => void;
}) {
  const without = workflows
    .filter((w) => w.states.some((s) => shown.has(s.id)))
    .flatMap((w) => statesInOrder(w).filter((s) => isInProgress(s.kind) && !shown.has(s.id)));
  if (without.length === 0) return null;
  return (
    <Note kind="look" className="mt-2">
      Without a column, so that items in {without.length === 1 ? "it" : "them"} are not on this
      board. Add one for{" "}
      {without.map((s) => (
        <Button key={s.id} small className="mr-1" onClick={() => onAdd(s.id)}>
          {s.name}
        </Button>
      ))}
    </Note>
  );
}
