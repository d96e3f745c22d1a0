"use client";
import { Button } from "@/ui/kit/button";
import { type ReactNode, useState } from "react";
import { printFormula } from "@/core/condition/formula-text";
import { isShown, ownValueWords, type OwnField, type OwnFieldKind } from "@/core/item/own-field";
import { sourceWords } from "@/core/item/shown-source";
import { listWords } from "@/core/formats/list-words";
import type { DesignView } from "@/core/workflow/design-view";
import { FieldEditor, KIND_WORDS, newField } from "./field-editor";
import type { DesignRequest } from "./use-design-request";
import { counted } from "@/core/formats/counted";
import { usualBugFields } from "@/core/item/bug-fields";
import { BUG_SIGN } from "@/core/item/item-type";
import { v7 as newId } from "uuid";
import { RowTools } from "@/ui/kit/row-tools";
import { TakenOut } from "@/ui/workflow/taken-out";

/**
 * The fields that a project made for itself: what each holds, which types have it, where it is
 * asked for and shown.
 */
export function FieldTable({ view, send }: { view: DesignView; send: DesignRequest }) {
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<OwnField | null>(null);
  const { mayEdit } = view;
  const { vocabulary } = view.around;
  const present = vocabulary.own.filter((f) => f.removedAt === null);
  const gone = vocabulary.own.filter((f) => f.removedAt !== null);
  const move = (field: OwnField, by: number) => {
    const ids = present.map((f) => f.id);
    const at = ids.indexOf(field.id);
    ids.splice(at, 1);
    ids.splice(at + by, 0, field.id);
    void send("fields", { kind: "order", ids: [...ids, ...gone.map((f) => f.id)] });
  };
  const close = () => {
    setOpen(null);
    setMade(null);
  };
  return (
    <section aria-label="Own fields">
      <div className="flex items-baseline gap-3">
        <h2 className="text-[15px]">Fields of our own</h2>
        <p className="flex-1 text-[12.5px] text-ink-soft">
          Beside what every item says. Conditions, rules and columns can use them.
        </p>
        {mayEdit && <BugFields view={view} send={send} />}
        {mayEdit && (
          <Button
            small
            disabled={made !== null}
            onClick={() => {
              const field = newField(newId());
              setMade(field);
              setOpen(field.id);
            }}
          >
            New field
          </Button>
        )}
      </div>
      {present.length === 0 && !made && (
        <p className="border-t border-line py-2 text-ink-soft">
          None yet. A cost, a route, a vendor’s ticket: whatever your team asks of an item again and
          again belongs here.
        </p>
      )}
      <ul className="mt-1">
        {[...present, ...(made ? [made] : [])].map((field, i) => (
          <li key={field.id} className="border-t border-line py-1.5" data-field={field.name}>
            <FieldLine field={field} view={view}>
              {mayEdit && (
                <RowTools
                  name={field.name}
                  open={open === field.id}
                  onOpen={() => (open === field.id ? close() : setOpen(field.id))}
                  {...(field !== made && {
                    onUp: i > 0 ? () => move(field, -1) : null,
                    onDown: i < present.length - 1 ? () => move(field, 1) : null,
                  })}
                />
              )}
            </FieldLine>
            {open === field.id && mayEdit && (
              <FieldEditor
                field={field}
                isNew={field === made}
                view={view}
                onCancel={close}
                onSave={async (draft) => {
                  if (
                    await send(
                      "fields",
                      { kind: "save", field: draft },
                      field === made
                        ? `${draft.name} ${beginsTo(draft.kind)} from now on.`
                        : `${draft.name} is changed.`,
                    )
                  )
                    close();
                }}
                onRemove={async () => {
                  const back = () => send("fields", { kind: "bring back", id: field.id });
                  if (
                    await send(
                      "fields",
                      { kind: "remove", id: field.id },
                      `${field.name} is taken out; what items say in it is kept.`,
                      back,
                    )
                  )
                    close();
                }}
              />
            )}
          </li>
        ))}
      </ul>
      <TakenOut
        words="Taken out, values kept:"
        things={gone}
        mayEdit={mayEdit}
        onBringBack={(id, name) =>
          void send(
            "fields",
            { kind: "bring back", id },
            `${name} is back, with what items said in it.`,
          )
        }
      />
    </section>
  );
}

/** One field: what it holds, which types have it, and what else is said of it. */
function FieldLine({
  field,
  view,
  children,
}: {
  field: OwnField;
  view: DesignView;
  children: ReactNode;
}) {
  const about = aboutField(field, view);
  const types = view.types.filter((t) => field.typeIds.includes(t.id)).map((t) => t.name);
  return (
    <div className="flex items-center gap-3">
      <b className="w-44 truncate">{field.name || "New field"}</b>
      <span className="w-32 text-[13px] text-ink-soft">
        {KIND_WORDS[field.kind]}
        {field.unit && `, ${field.unit}`}
      </span>
      <span className="w-36 truncate text-[13px]">
        {field.typeIds.length === 0 ? "every type" : types.join(", ")}
      </span>
      <span className="min-w-0 flex-1 truncate text-[13px] text-ink-soft" title={about}>
        {about}
      </span>
      {children}
    </div>
  );
}

/** Which new items must say it. */
function whoMustSayIt({ requiredTypeIds }: OwnField, types: DesignView["types"]): string {
  const named = types.filter((t) => requiredTypeIds.includes(t.id)).map((t) => t.name);
  return `a new ${named.length > 0 ? listWords(named) : "item"} must say it`;
}

const beginsTo = (kind: OwnFieldKind): string =>
  isShown(kind) ? "is shown" : kind === "computed" ? "is computed" : "can be filled in";

/** What a field is made of, begins with, and where it is asked for. */
function aboutField(f: OwnField, { around: { vocabulary }, types }: DesignView): string {
  const nameOf = (id: string) => vocabulary.people.find((p) => p.id === id)?.name ?? "somebody";
  const offered = f.options.filter((o) => o.offered).map((o) => o.name);
  return [
    f.formula && `= ${printFormula(f.formula, vocabulary)}`,
    f.source && sourceWords(f.source, vocabulary.own),
    offered.join(", "),
    f.initial !== null && `begins with ${ownValueWords(f, f.initial, nameOf)}`,
    f.requiredAtStart && whoMustSayIt(f, types),
    f.onCard && "on cards",
  ]
    .filter(Boolean)
    .join(" · ");
}

/** Makes the usual fields of a bug, as far as the project has them not; with a way back. */
function BugFields({ view, send }: { view: DesignView; send: DesignRequest }) {
  const [busy, setBusy] = useState(false);
  const bugs = view.types.filter((type) => type.removedAt === null && type.glyph === BUG_SIGN);
  const missing = usualBugFields(
    view.around.vocabulary.own,
    bugs.map(({ id }) => id),
    newId,
  );
  if (bugs.length === 0 || missing.length === 0) return null;
  const make = async () => {
    setBusy(true);
    const takeOut = async () => {
      for (const { id } of missing) await send("fields", { kind: "remove", id });
    };
    for (const [i, field] of missing.entries()) {
      const last = i === missing.length - 1;
      const done = last ? `Bugs have ${counted(missing.length, "field")} more.` : undefined;
      if (!(await send("fields", { kind: "save", field }, done, last ? takeOut : undefined))) break;
    }
    setBusy(false);
  };
  return (
    <Button
      small
      look="quiet"
      disabled={busy}
      title={listWords(
        missing.map(({ name }) => name),
        "and",
      )}
      onClick={() => void make()}
    >
      The usual fields of a bug
    </Button>
  );
}
