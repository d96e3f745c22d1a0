"use client";
import { useState, type ReactNode } from "react";
import { EVERY_ITEM, type Condition } from "@/core/condition/condition";
import { ConditionWords } from "@/ui/condition/condition-words";
import { AddMenu } from "@/ui/kit/add-menu";
import { ListEditor } from "@/ui/kit/list-editor";
import type { LookHandle } from "@/ui/view/use-look";

const OWN = "a condition of this view";

/**
 * Things that go by a condition each, from the one that is asked first. Another is made of a
 * condition that the project has given a name, or of one of the view's own.
 */
export function ConditionList<T extends { condition: Condition }>({
  handle,
  label,
  addLabel,
  items,
  most,
  nameOf,
  made,
  head,
  onChange,
}: {
  handle: LookHandle;
  label: string;
  addLabel: string;
  items: readonly T[];
  /** So many there are at most. */
  most: number;
  nameOf: (item: T) => string;
  /** @param name of the condition that it is made of; null where it has none yet */
  made: (name: string | null, condition: Condition) => T;
  /** What stands above its condition. */
  head: (item: T, at: number, set: (change: Partial<T>) => void) => ReactNode;
  onChange: (items: T[]) => void;
}) {
  const { vocabulary, named } = handle.views;
  const [open, setOpen] = useState<number | null>(null);
  const set = (at: number, change: Partial<T>) =>
    onChange(items.map((item, i) => (i === at ? { ...item, ...change } : item)));
  const add = (id: string) => {
    const known = named.find((one) => one.id === id);
    onChange([...items, made(known?.name ?? null, known?.condition ?? EVERY_ITEM)]);
    if (!known) setOpen(items.length);
  };
  const used = new Set(items.map((item) => JSON.stringify(item.condition)));
  return (
    <ListEditor
      label={label}
      items={items}
      keyOf={(_, i) => String(i)}
      nameOf={nameOf}
      onRemove={(at) => onChange(items.toSpliced(at, 1))}
      onMove={(from, to) => onChange(items.toSpliced(from, 1).toSpliced(to, 0, items[from]))}
      row={(item, i) => (
        <div className="flex min-w-0 flex-1 flex-col gap-1">
          {head(item, i, (change) => set(i, change))}
          <ConditionWords
            condition={item.condition}
            vocabulary={vocabulary}
            open={open === i}
            onOpen={() => setOpen(i)}
            onChange={(condition) => set(i, { condition } as Partial<T>)}
          />
        </div>
      )}
    >
      {items.length < most && (
        <AddMenu
          label={addLabel}
          options={[
            ...named
              .filter(({ condition }) => !used.has(JSON.stringify(condition)))
              .map(({ id, name }) => ({ value: id, label: name })),
            { value: OWN, label: OWN },
          ]}
          onAdd={add}
        />
      )}
    </ListEditor>
  );
}
