"use client";
import { Button, TextButton } from "@/ui/kit/button";
import { useState } from "react";
import { printFormula } from "@/core/condition/formula-text";
import { ownValueWords, type OwnField } from "@/core/item/own-field";
import type { DesignView } from "@/core/workflow/design-view";
import { FieldEditor, KIND_WORDS, newField } from "./field-editor";
import type { DesignRequest } from "./use-design-request";
import { v7 as newId } from "uuid";

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
  const typeNames = (f: OwnField) =>
    f.typeIds.length === 0
      ? "every type"
      : view.types
          .filter((t) => f.typeIds.includes(t.id))
          .map((t) => t.name)
          .join(", ");
  const nameOf = (id: string) => vocabulary.people.find((p) => p.id === id)?.name ?? "somebody";
  const about = (f: OwnField): string =>
    [
      f.kind === "computed" && f.formula ? `= ${printFormula(f.formula, vocabulary)}` : null,
      f.kind === "one of" || f.kind === "many of"
        ? f.options
            .filter((o) => o.offered)
            .map((o) => o.name)
            .join(", ")
        : null,
      f.initial !== null ? `begins with ${ownValueWords(f, f.initial, nameOf)}` : null,
      f.requiredAtStart ? "a new item must say it" : null,
      f.onCard ? "on cards" : null,
    ]
      .filter(Boolean)
      .join(" · ");
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
            <div className="flex items-center gap-3">
              <b className="w-44 truncate">{field.name || "New field"}</b>
              <span className="w-32 text-[13px] text-ink-soft">
                {KIND_WORDS[field.kind]}
                {field.unit && `, ${field.unit}`}
              </span>
              <span className="w-36 truncate text-[13px]">{typeNames(field)}</span>
              <span
                className="min-w-0 flex-1 truncate text-[13px] text-ink-soft"
                title={about(field)}
              >
                {about(field)}
              </span>
              {mayEdit && field !== made && (
                <>
                  <Button
                    look="quiet"
                    small
                    className="!px-1"
                    aria-label={`${field.name} further up`}
                    disabled={i === 0}
                    onClick={() => move(field, -1)}
                  >
                    ↑
                  </Button>
                  <Button
                    look="quiet"
                    small
                    className="!px-1"
                    aria-label={`${field.name} further down`}
                    disabled={i === present.length - 1}
                    onClick={() => move(field, 1)}
                  >
                    ↓
                  </Button>
                </>
              )}
              {mayEdit && (
                <Button
                  small
                  aria-expanded={open === field.id}
                  onClick={() => (open === field.id ? close() : setOpen(field.id))}
                >
                  {open === field.id ? "Close" : "Change"}
                </Button>
              )}
            </div>
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
                        ? `${draft.name} can be filled in from now on.`
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
      {gone.length > 0 && (
        <p className="mt-1 flex flex-wrap items-center gap-2 text-[13px] text-ink-soft">
          Taken out, values kept:
          {gone.map((f) => (
            <span key={f.id} className="inline-flex items-center gap-1">
              {f.name}
              {mayEdit && (
                <TextButton
                  onClick={() =>
                    void send(
                      "fields",
                      { kind: "bring back", id: f.id },
                      `${f.name} is back, with what items said in it.`,
                    )
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
