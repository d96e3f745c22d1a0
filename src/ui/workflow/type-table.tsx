"use client";
import { Button } from "@/ui/kit/button";
import { useState } from "react";
import { LEVEL_WORDS, TYPE_GLYPHS, type ItemType } from "@/core/item/item-type";
import type { DesignView } from "@/core/workflow/design-view";
import { CommitText } from "@/ui/kit/commit-input";
import { GlyphDrawing } from "@/ui/kit/type-glyph";
import type { DesignRequest } from "./use-design-request";
import { v7 as newId } from "uuid";
import { type TypeDraft, TypeEditor } from "@/ui/workflow/type-editor";
import { RowTools } from "@/ui/kit/row-tools";
import { TakenOut } from "@/ui/workflow/taken-out";

/**
 * The item types of a project: what each is called, how it is marked, which workflow it follows,
 * how its description begins.
 */
export function TypeTable({ view, send }: { view: DesignView; send: DesignRequest }) {
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<TypeDraft | null>(null);
  const { mayEdit } = view;
  const present = view.types.filter((t) => t.removedAt === null);
  const gone = view.types.filter((t) => t.removedAt !== null);
  const start = () => {
    const draft: TypeDraft = {
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
                {mayEdit && (
                  <RowTools
                    name={type.name}
                    open={open === type.id}
                    onOpen={() => setOpen(open === type.id ? null : type.id)}
                    {...(stored && {
                      onUp: i > 0 ? () => move(stored, -1) : null,
                      onDown: i < present.length - 1 ? () => move(stored, 1) : null,
                    })}
                  />
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
      <TakenOut
        words="Taken out:"
        things={gone}
        mayEdit={mayEdit}
        onBringBack={(id, name) =>
          void send("types", { kind: "bring back", id }, `${name} is back.`)
        }
      />
      <LevelNames view={view} send={send} />
    </section>
  );
}

/** What the project calls the levels of its items. */
function LevelNames({ view, send }: { view: DesignView; send: DesignRequest }) {
  const { levelNames: names, mayEdit } = view;
  const rename = (at: number, name: string) =>
    void send(
      "types",
      { kind: "name levels", names: names.with(at, name) },
      `${names[at]} is called ${name} now.`,
      () => send("types", { kind: "name levels", names }),
    );
  return (
    <div className="mt-2 border-t border-line pt-2">
      <h3 className="text-[13px]">What the levels are called</h3>
      <ol className="mt-1 grid max-w-[720px] grid-cols-4 gap-3">
        {names.map((name, at) => (
          <li key={at}>
            <CommitText
              label={`Name of the level: ${LEVEL_WORDS[at]}`}
              value={name}
              max={30}
              required
              disabled={!mayEdit}
              onCommit={(next) => rename(at, next)}
            />
            <p className="text-[12px] text-ink-soft">{LEVEL_WORDS[at]}</p>
          </li>
        ))}
      </ol>
    </div>
  );
}
