"use client";
import { EDITABLE_FIELDS, itemField, type EditableFields } from "@/core/item/fields";
import type { ItemView } from "@/core/item/item-view";
import { tellProblem } from "@/ui/kit/notice";
import { shortDate } from "@/ui/kit/time";
import { choicesOf, ItemFieldEditor, type NamedChoices } from "./field-editor";
import { SizeField } from "./size-field";
import { TypeField } from "./type-field";
import type { ItemHandle } from "./use-item";

/** The fields of an item, each edited in place and stored at once. */
export function ItemFields({ handle }: { handle: ItemHandle }) {
  const { view, edit, reload } = handle;
  const store = (changes: Partial<EditableFields>) =>
    edit(changes).catch((error) => {
      tellProblem(error);
      void reload();
    });
  const named = namedIn(view);
  return (
    <div className="grid grid-cols-[auto_1fr_auto_1fr] max-sm:grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {EDITABLE_FIELDS.filter((field) => itemField(field).panel).map((field) =>
        field === "typeId" ? (
          <TypeField key={field} handle={handle} />
        ) : field === "estimate" ? (
          <SizeField
            key={field}
            item={{ id: view.item.id, key: view.key }}
            projectKey={view.project.key}
            label={itemField(field).label}
            size={view.item.estimate}
            locked={!view.rights.edit || view.withdrawn !== null}
            onStore={(estimate) => store({ estimate })}
          />
        ) : (
          <ItemFieldEditor
            key={field}
            field={itemField(field)}
            value={view.item[field]}
            options={choicesOf(itemField(field), named)}
            projectKey={view.project.key}
            locked={!view.rights.edit || view.withdrawn !== null}
            onStore={(value) => store({ [field]: value })}
          />
        ),
      )}
    </div>
  );
}

const namedIn = ({ types, people, teams, sprints, releases }: ItemView): NamedChoices => ({
  types,
  people,
  teams,
  sprints,
  // Its day is changed in one place, and stands wherever it is named.
  releases: releases.map((one) => ({
    ...one,
    name: one.dueOn === null ? one.name : `${one.name}, ${shortDate(one.dueOn)}`,
  })),
});
