"use client";
import { AddMenu } from "@/ui/kit/add-menu";
import { ListEditor } from "@/ui/kit/list-editor";
import type { ViewUse } from "@/core/view/view";

/** Which views everybody finds first, in which order. */
export function FrameOrder({
  uses,
  onOrder,
}: {
  uses: readonly ViewUse[];
  onOrder: (ids: string[]) => void;
}) {
  const framed = uses
    .filter((use) => use.place !== null)
    .sort((a, b) => a.place! - b.place!)
    .map(({ id, name }) => ({ id, name }));
  const ids = framed.map((use) => use.id);
  const others = uses.filter((use) => use.place === null);
  return (
    <section aria-label="In everybody’s frame">
      <h2 className="text-[14px]">In everybody’s frame</h2>
      <ListEditor
        label="Views in the frame"
        items={framed}
        keyOf={({ id }) => id}
        nameOf={({ name }) => name}
        row={({ name }) => <span className="text-[13.5px]">{name}</span>}
        empty="None is in it: everybody begins with the boards."
        onRemove={(at) => onOrder(ids.toSpliced(at, 1))}
        onMove={(from, to) => onOrder(ids.toSpliced(from, 1).toSpliced(to, 0, ids[from]))}
      >
        {others.length > 0 && (
          <AddMenu
            label="Add a view"
            options={others.map(({ id, name }) => ({ value: id, label: name }))}
            onAdd={(id) => onOrder([...ids, id])}
          />
        )}
      </ListEditor>
    </section>
  );
}
