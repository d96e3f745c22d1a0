"use client";
import { computedFields } from "@/core/item/compute-fields";
import { fieldsOfType, ownValueWords, type OwnField, type OwnValue } from "@/core/item/own-field";
import { sourceWords } from "@/core/item/shown-source";
import { tellProblem } from "@/ui/kit/notice";
import { shortDate } from "@/ui/kit/time";
import { OwnFieldInput } from "./own-field-input";
import type { ItemHandle } from "./use-item";

/**
 * The fields that the project made for itself, each edited in place; what is computed is shown with
 * how.
 */
export function OwnFields({ handle }: { handle: ItemHandle }) {
  const { view, edit, reload } = handle;
  const fields = fieldsOfType(view.ownFields, view.item.typeId);
  if (fields.length === 0) return null;
  const computed = computedFields(view.ownFields, view.item);
  const nameOf = (id: string) => view.people.find((p) => p.id === id)?.name ?? "somebody";
  const store = (id: string, value: OwnValue | null) =>
    void edit({}, undefined, { [id]: value }).catch((error) => {
      tellProblem(error);
      void reload();
    });
  return (
    <section
      aria-label="Fields of this project"
      className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 border-t border-line pt-2"
    >
      {fields.map((field) => {
        const value = view.item.own[field.id] ?? null;
        return (
          <div key={field.id} className="contents">
            <span className="self-center text-[12.5px] text-ink-soft">{field.name}</span>
            {field.source ? (
              <output
                className="px-1.5 py-1"
                aria-label={field.name}
                title={sourceWords(field.source, view.ownFields)}
              >
                {view.shown[field.id] === undefined ? (
                  <span className="text-ink-soft">nothing to show</span>
                ) : (
                  shownWords(field, view.shown[field.id])
                )}
              </output>
            ) : field.kind === "computed" ? (
              <output className="px-1.5 py-1 font-semibold tabular-nums" aria-label={field.name}>
                {computed[field.id] === null ? (
                  <span className="font-normal text-ink-soft">once its numbers are known</span>
                ) : (
                  ownValueWords(field, computed[field.id], nameOf)
                )}
              </output>
            ) : (
              <span className="flex items-center gap-2">
                <span className="min-w-0 flex-1">
                  <OwnFieldInput
                    field={field}
                    value={value}
                    people={view.people}
                    plain
                    disabled={!view.rights.edit}
                    onChange={(next) => store(field.id, next)}
                  />
                </span>
                {field.kind === "link" && typeof value === "string" && (
                  <a
                    className="link shrink-0"
                    href={value}
                    rel="noopener noreferrer"
                    target="_blank"
                  >
                    open
                  </a>
                )}
              </span>
            )}
          </div>
        );
      })}
    </section>
  );
}

/** What a field shows, as people read it: days as days. */
const shownWords = (field: OwnField, value: string | number): string =>
  field.kind === "shown date" && typeof value === "string"
    ? shortDate(value)
    : ownValueWords(field, value, () => "somebody");
