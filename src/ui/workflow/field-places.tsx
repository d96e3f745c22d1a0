"use client";
import { isDerived, isShown, type OwnField } from "@/core/item/own-field";
import type { DesignView } from "@/core/workflow/design-view";
import { Check } from "@/ui/kit/check";

/** A field that is being edited. */
export type FieldDraft = Omit<OwnField, "position" | "removedAt">;

/** Which types have a field and which must say it, and where it is shown and asked for. */
export function FieldPlaces({
  draft,
  view,
  set,
  everyType,
  onEveryType,
}: {
  draft: FieldDraft;
  view: DesignView;
  set: (change: Partial<FieldDraft>) => void;
  everyType: boolean;
  onEveryType: (every: boolean) => void;
}) {
  const isAsked = !isDerived(draft.kind);
  return (
    <div className="flex flex-col gap-3 text-[13px]">
      <TypesOfField
        draft={draft}
        view={view}
        set={set}
        everyType={everyType}
        onEveryType={onEveryType}
      />
      <fieldset className="flex flex-col gap-0.5">
        <legend className="text-[12px] font-semibold">
          {isAsked ? "Where it is shown and asked for" : "Where it is shown"}
        </legend>
        <p className="text-ink-soft">On the item, always.</p>
        {isShown(draft.kind) ? (
          <p className="text-ink-soft">In tables, and on the cards of each view that chooses it.</p>
        ) : (
          <Check checked={draft.onCard} onChange={(onCard) => set({ onCard })}>
            on cards of the board
          </Check>
        )}
        {isAsked && (
          <>
            <Check checked={draft.onNewItem} onChange={(onNewItem) => set({ onNewItem })}>
              in the form for a new item
            </Check>
            <p className="text-[12.5px] text-ink-soft">
              What a new item must say is always in its form. A move can demand it too: choose the
              move on the map, then “a field is filled”.
            </p>
          </>
        )}
      </fieldset>
    </div>
  );
}

/** A line for each type: whether it has the field, and whether a new one must say it. */
function TypesOfField({
  draft,
  view,
  set,
  everyType,
  onEveryType,
}: Parameters<typeof FieldPlaces>[0]) {
  const types = view.types.filter((t) => t.removedAt === null);
  const { typeIds, requiredAtStart, requiredTypeIds } = draft;
  const has = (id: string) => everyType || typeIds.includes(id);
  const must = (id: string) =>
    has(id) && requiredAtStart && (requiredTypeIds.length === 0 || requiredTypeIds.includes(id));
  const having = types.filter((t) => has(t.id));
  const setMust = (ids: string[]) =>
    set({
      requiredAtStart: ids.length > 0,
      requiredTypeIds: ids.length === having.length ? [] : ids,
    });
  const setHas = (id: string, on: boolean) => {
    const left = on ? [...typeIds, id] : typeIds.filter((x) => x !== id);
    const stillMust = requiredTypeIds.filter((x) => x !== id);
    const all = requiredTypeIds.length === 0;
    set({
      typeIds: left,
      requiredTypeIds: stillMust,
      requiredAtStart: requiredAtStart && (all ? left.length > 0 : stillMust.length > 0),
    });
  };
  const allMust = having.length > 0 && having.every((t) => must(t.id));
  const isAsked = !isDerived(draft.kind);
  return (
    <table className="w-full text-left">
      <caption className="sr-only">Which types have it, and which must say it</caption>
      <thead>
        <tr className="text-[12px]">
          <th scope="col" className="font-semibold">
            Type
          </th>
          <th scope="col" className="font-semibold">
            has it
          </th>
          {isAsked && (
            <th scope="col" className="font-semibold">
              a new one must say it
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        <tr className="border-t border-line">
          <th scope="row" className="py-0.5 font-normal">
            every type
          </th>
          <td>
            <Check
              aria-label="Every type has it"
              checked={everyType}
              onChange={(on) => {
                onEveryType(on);
                // Some begin with none: what is wanted is named.
                set({ typeIds: [], requiredTypeIds: [], requiredAtStart: on && requiredAtStart });
              }}
            />
          </td>
          {isAsked && (
            <td>
              <Check
                aria-label="A new item of every type that has it must say it"
                checked={allMust}
                disabled={having.length === 0}
                onChange={(on) => setMust(on ? having.map((t) => t.id) : [])}
              />
            </td>
          )}
        </tr>
        {types.map((t) => (
          <tr key={t.id} className="border-t border-line">
            <th scope="row" className="py-0.5 pl-4 font-normal">
              {t.name}
            </th>
            <td>
              <Check
                aria-label={`${t.name} has it`}
                checked={has(t.id)}
                disabled={everyType}
                onChange={(on) => setHas(t.id, on)}
              />
            </td>
            {isAsked && (
              <td>
                <Check
                  aria-label={`A new ${t.name} must say it`}
                  checked={must(t.id)}
                  disabled={!has(t.id)}
                  onChange={(on) =>
                    setMust(having.map((x) => x.id).filter((id) => (id === t.id ? on : must(id))))
                  }
                />
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
