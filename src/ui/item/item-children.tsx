"use client";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { useState, type FormEvent } from "react";
import { tellProblem } from "@/ui/kit/notice";
import { ChildList } from "./child-list";
import { makeItem } from "./send-command";
import type { ItemHandle } from "./use-item";

/** The tasks under an item: what is done, what is left, one more. */
export function ItemChildren({ handle }: { handle: ItemHandle }) {
  const { view, reload } = handle;
  const [title, setTitle] = useState("");
  const add = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await makeItem({
        projectKey: view.project.key,
        parentId: view.item.id,
        fields: { title, typeId: "task", assigneeId: view.item.assigneeId },
      });
      setTitle("");
      await reload();
    } catch (error) {
      tellProblem(error);
    }
  };
  const isTask = view.types.find((t) => t.id === view.item.typeId)?.level === 0;
  if (isTask || (view.children.length === 0 && !view.rights.edit)) return null;
  const done = view.children.filter((c) => c.finished).length;
  return (
    <section>
      <h3 className="mb-1 text-[13px]">
        Children{" "}
        {view.children.length > 0 && (
          <span className="font-normal text-ink-soft">
            {done} of {view.children.length} done
          </span>
        )}
      </h3>
      <ChildList handle={handle} />
      {view.rights.edit && (
        <form onSubmit={(e) => void add(e)} className="mt-1 flex gap-2">
          <TextInput
            aria-label="New child"
            placeholder="New child"
            required
            maxLength={300}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
          />
          <Button type="submit" small className="!min-h-[30px]">
            Add task
          </Button>
        </form>
      )}
    </section>
  );
}
