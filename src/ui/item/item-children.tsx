"use client";
import { useState, type FormEvent } from "react";
import type { ItemView } from "@/core/item/item-view";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { namedOptions, Select } from "@/ui/kit/select";
import { ChildList } from "./child-list";
import { makeItem } from "./send-command";
import type { ItemHandle } from "./use-item";

/** What stands under an item: what is done, what is left, one more. */
export function ItemChildren({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const types = typesBelow(view);
  if (types.length === 0 || (view.children.length === 0 && !view.rights.edit)) return null;
  const done = view.children.filter((c) => c.finished).length;
  return (
    <section aria-label="Children">
      <h3 className="mb-1 text-[13px]">
        Children{" "}
        {view.children.length > 0 && (
          <span className="font-normal text-ink-soft">
            {done} of {view.children.length} done
          </span>
        )}
      </h3>
      <ChildList handle={handle} />
      {view.rights.edit && view.withdrawn === null && <NewChild handle={handle} types={types} />}
    </section>
  );
}

/** The types of which something can stand under an item, the largest first. */
function typesBelow({ types, item }: ItemView): ItemView["types"] {
  const level = types.find(({ id }) => id === item.typeId)?.level ?? 0;
  return types
    .filter((type) => type.removedAt === null && type.level < level)
    .sort((a, b) => b.level - a.level || a.position - b.position);
}

function NewChild({ handle, types }: { handle: ItemHandle; types: ItemView["types"] }) {
  const { view, reload } = handle;
  const [title, setTitle] = useState("");
  const [chosen, setChosen] = useState<string | null>(null);
  const last = view.children.at(-1)?.card.typeId;
  const type =
    [chosen, last].map((id) => types.find((one) => one.id === id)).find(Boolean) ?? types[0];
  const add = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await makeItem({
        projectKey: view.project.key,
        parentId: view.item.id,
        fields: { title, typeId: type.id, assigneeId: view.item.assigneeId },
      });
      setTitle("");
      await reload();
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <form onSubmit={(event) => void add(event)} className="mt-1 flex gap-2">
      <TextInput
        aria-label="New child"
        placeholder="New child"
        required
        maxLength={300}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      {types.length > 1 && (
        <Select
          label="Its type"
          className="!w-auto shrink-0"
          value={type.id}
          options={namedOptions(types)}
          onChange={setChosen}
        />
      )}
      <Button type="submit" small className="!min-h-[30px]">
        Add {type.name.toLocaleLowerCase("en")}
      </Button>
    </form>
  );
}
