"use client";
import { FormFooter } from "@/ui/kit/form-footer";
import { Select, namedOptions } from "@/ui/kit/select";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { Button, TextButton } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import { useState } from "react";
import { LEVEL_WORDS, TYPE_GLYPHS, type ItemType, type TypeGlyphName } from "@/core/item/item-type";
import type { DesignView } from "@/core/workflow/design-view";
import { statesInOrder } from "@/core/workflow/workflow";
import { GlyphDrawing } from "@/ui/kit/type-glyph";
import type { DesignRequest } from "./use-design-request";
import { v7 as newId } from "uuid";

type Draft = Pick<ItemType, "id" | "name" | "level" | "workflowId" | "glyph" | "template">;

/**
 * The item types of a project: what each is called, how it is marked, which workflow it follows,
 * how its description begins.
 */
export function TypeTable({ view, send }: { view: DesignView; send: DesignRequest }) {
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<Draft | null>(null);
  const { mayEdit } = view;
  const present = view.types.filter((t) => t.removedAt === null);
  const gone = view.types.filter((t) => t.removedAt !== null);
  const start = () => {
    const draft: Draft = {
      id: newId(),
      name: "",
      level: 1,
      workflowId: view.workflows[0].id,
      glyph: TYPE_GLYPHS.find((g) => !view.types.some((t) => t.glyph === g)) ?? "square",
      template: "",
    };
    setMade(draft);
    setOpen(draft.id);
  };
  const move = (type: ItemType, by: number) => {
    const ids = present.map((t) => t.id);
    const at = ids.indexOf(type.id);
    ids.splice(at, 1);
    ids.splice(at + by, 0, type.id);
    void send("types", { kind: "order", ids });
  };
  return (
    <section aria-label="Item types">
      <div className="flex items-baseline gap-3">
        <h2 className="text-[15px]">Item types</h2>
        <p className="flex-1 text-[12.5px] text-ink-soft">
          The type of an item decides which workflow it follows and which fields it has.
        </p>
        {mayEdit && (
          <Button small disabled={made !== null} onClick={start}>
            New type
          </Button>
        )}
      </div>
      <ul className="mt-1">
        {[...present, ...(made ? [made] : [])].map((type, i) => {
          const stored = present.find((t) => t.id === type.id);
          const workflow = view.workflows.find((w) => w.id === type.workflowId);
          return (
            <li key={type.id} className="border-t border-line py-1.5" data-type={type.name}>
              <div className="flex items-center gap-3">
                <span className="text-ink-soft">
                  <GlyphDrawing glyph={type.glyph} size={18} />
                </span>
                <b className="w-32 truncate">{type.name || "New type"}</b>
                <span className="w-52 text-[13px] text-ink-soft">{LEVEL_WORDS[type.level]}</span>
                <span className="min-w-0 flex-1 truncate text-[13px]">
                  follows <b>{workflow?.name}</b>
                </span>
                {mayEdit && stored && (
                  <>
                    <Button
                      look="quiet"
                      small
                      className="!px-1"
                      aria-label={`${type.name} further up`}
                      disabled={i === 0}
                      onClick={() => move(stored, -1)}
                    >
                      ↑
                    </Button>
                    <Button
                      look="quiet"
                      small
                      className="!px-1"
                      aria-label={`${type.name} further down`}
                      disabled={i === present.length - 1}
                      onClick={() => move(stored, 1)}
                    >
                      ↓
                    </Button>
                  </>
                )}
                {mayEdit && (
                  <Button
                    small
                    aria-expanded={open === type.id}
                    onClick={() => setOpen(open === type.id ? null : type.id)}
                  >
                    {open === type.id ? "Close" : "Change"}
                  </Button>
                )}
              </div>
              {open === type.id && mayEdit && (
                <TypeEditor
                  type={type}
                  view={view}
                  isNew={!stored}
                  onSave={async (draft, newStates) => {
                    if (
                      await send(
                        "types",
                        { kind: "save", type: draft, newStates },
                        stored
                          ? `${draft.name} is changed.`
                          : `${draft.name} can be used from now on.`,
                      )
                    ) {
                      setOpen(null);
                      setMade(null);
                    }
                  }}
                  onCancel={() => {
                    setOpen(null);
                    setMade(null);
                  }}
                  onRemove={async () => {
                    const back = () => send("types", { kind: "bring back", id: type.id });
                    if (
                      await send(
                        "types",
                        { kind: "remove", id: type.id },
                        `${type.name} is taken out; items that have it keep it.`,
                        back,
                      )
                    )
                      setOpen(null);
                  }}
                />
              )}
            </li>
          );
        })}
      </ul>
      {gone.length > 0 && (
        <p className="mt-1 flex flex-wrap items-center gap-2 text-[13px] text-ink-soft">
          Taken out:
          {gone.map((t) => (
            <span key={t.id} className="inline-flex items-center gap-1">
              {t.name}
              {mayEdit && (
                <TextButton
                  onClick={() =>
                    void send("types", { kind: "bring back", id: t.id }, `${t.name} is back.`)
                  }
                >
                  bring back
                </TextButton>
              )}
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

function TypeEditor({
  type,
  view,
  isNew,
  onSave,
  onCancel,
  onRemove,
}: {
  type: Draft;
  view: DesignView;
  isNew: boolean;
  onSave: (draft: Draft, newStates: Record<string, string>) => void;
  onCancel: () => void;
  onRemove: () => void;
}) {
  const { id, name, level, workflowId, glyph, template } = type;
  const [draft, setDraft] = useState<Draft>({ id, name, level, workflowId, glyph, template });
  const [newStates, setNewStates] = useState<Record<string, string>>({});
  const set = (change: Partial<Draft>) => setDraft((d) => ({ ...d, ...change }));
  const target = view.workflows.find((w) => w.id === draft.workflowId)!;
  const counts = view.countsByType[type.id] ?? {};
  const from = view.workflows.find((w) => w.id === workflowId);
  const toPlace =
    isNew || draft.workflowId === workflowId || !from
      ? []
      : statesInOrder(from).filter((s) => (counts[s.id] ?? 0) > 0);
  // A state of the same name, or else the first of the same kind, is most likely what is wanted.
  const guess = (stateId: string) => {
    const state = from!.states.find((s) => s.id === stateId)!;
    return (
      newStates[stateId] ??
      (
        target.states.find((s) => s.name === state.name) ??
        statesInOrder(target).find((s) => s.kind === state.kind) ??
        statesInOrder(target)[0]
      ).id
    );
  };
  return (
    <form
      className="mt-2 grid grid-cols-[minmax(0,260px)_minmax(0,1fr)] gap-x-6 gap-y-2 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSave(draft, Object.fromEntries(toPlace.map((s) => [s.id, guess(s.id)])));
      }}
    >
      <div className="flex flex-col gap-2">
        <Field label="Name">
          <TextInput
            required
            autoFocus
            maxLength={40}
            value={draft.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </Field>
        <Field label="It is">
          <Select
            value={String(draft.level)}
            options={LEVEL_WORDS.map((label, value) => ({ value: String(value), label }))}
            onChange={(value) => set({ level: Number(value) })}
          />
        </Field>
        <Field label="It follows the workflow">
          <Select
            value={draft.workflowId}
            options={namedOptions(view.workflows)}
            onChange={(value) => set({ workflowId: value })}
          />
        </Field>
        <fieldset>
          <legend className="text-[12px] font-semibold">Its sign</legend>
          <div className="flex flex-wrap gap-1">
            {TYPE_GLYPHS.map((g: TypeGlyphName) => (
              <button
                key={g}
                type="button"
                aria-label={g}
                aria-pressed={draft.glyph === g}
                className={`rounded-[3px] border p-1.5 ${draft.glyph === g ? "border-accent bg-accent-soft text-ink" : "border-line text-ink-soft"}`}
                onClick={() => set({ glyph: g })}
              >
                <GlyphDrawing glyph={g} size={16} />
              </button>
            ))}
          </div>
        </fieldset>
      </div>
      <Field label="A new description begins with (Markdown)">
        <TextArea
          className="!font-normal"
          rows={9}
          maxLength={5_000}
          value={draft.template}
          onChange={(e) => set({ template: e.target.value })}
          placeholder="**Steps to reproduce** …"
        />
      </Field>
      {toPlace.length > 0 && (
        <div className="col-span-full flex flex-col gap-1">
          <p className="text-[13px] font-semibold">Items of this type go along:</p>
          {toPlace.map((s) => (
            <label key={s.id} className="flex items-center gap-2 text-[13px]">
              <span className="w-64">
                <b>{counted(counts[s.id], "item")}</b> in {s.name}{" "}
                {counts[s.id] === 1 ? "goes" : "go"} to
              </span>
              <span className="w-52">
                <Select
                  label={`New state of what is in ${s.name}`}
                  value={guess(s.id)}
                  options={namedOptions(statesInOrder(target))}
                  onChange={(to) => setNewStates((all) => ({ ...all, [s.id]: to }))}
                />
              </span>
            </label>
          ))}
        </div>
      )}
      <FormFooter
        className="col-span-full"
        send={isNew ? "Add the type" : "Store the type"}
        disabled={!draft.name.trim()}
        onLeave={onCancel}
        onRemove={isNew ? undefined : onRemove}
      />
    </form>
  );
}
