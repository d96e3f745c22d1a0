"use client";
import { addressOf } from "@/core/contract/contract";
import { itemContract } from "@/core/item/contract";
import { testingContract } from "@/core/ship/testing/contract";
import type { ShowDraft } from "@/core/ship/acceptance/acceptance-view";
import type { ShownItemBody } from "@/core/ship/acceptance/shown-item";
import { Check } from "@/ui/kit/check";
import { Field, TextArea, TextInput } from "@/ui/kit/field";
import { Picture } from "@/ui/kit/picture";
import { TestsShown } from "./tests-shown";

/** What is seen of one item: all of it can be written anew, and nothing else goes out. */
export function ShowItem({
  draft,
  value,
  project,
  onChange,
}: {
  draft: ShowDraft;
  value: ShownItemBody;
  project: { key: string; zone: string };
  onChange: (value: ShownItemBody) => void;
}) {
  const { key, tested, pictures, restricted } = draft;
  const set = (changed: Partial<ShownItemBody>) => onChange({ ...value, ...changed });
  const pictureAddress = ({ id, from, run }: ShowDraft["pictures"][number]) =>
    from === "item"
      ? addressOf(itemContract.file, { params: { key, file: id } })
      : addressOf(testingContract.picture, {
          params: { key: project.key, number: String(run), picture: id },
        });
  return (
    <li aria-label={key}>
      <p className="flex items-baseline gap-2">
        <span className="key">{key}</span>
        {restricted && (
          <b className="text-[12.5px] text-signal-ink">only some of the project see this item</b>
        )}
      </p>
      <Field label="What was done, in their words">
        <TextInput
          value={value.title}
          required
          maxLength={300}
          onChange={(event) => set({ title: event.target.value })}
        />
      </Field>
      <Field label="How they see it">
        <TextArea
          rows={2}
          maxLength={4_000}
          value={value.how}
          onChange={(event) => set({ how: event.target.value })}
        />
      </Field>
      <Field label="Where">
        <TextInput
          value={value.address}
          maxLength={2_000}
          placeholder="https://…"
          onChange={(event) => set({ address: event.target.value })}
        />
      </Field>
      {tested.length > 0 && (
        <div>
          <Check checked={value.tested} onChange={(on) => set({ tested: on })}>
            They see what was tested
          </Check>
          {value.tested && <TestsShown tested={tested} zone={project.zone} />}
        </div>
      )}
      {pictures.length > 0 && (
        <ul className="shown-pictures" aria-label="Pictures that may go with it">
          {pictures.map((picture) => (
            <li key={picture.id}>
              <Picture src={pictureAddress(picture)} alt="" className="shown-picture" />
              <Check
                checked={value.pictures.includes(picture.id)}
                onChange={(on) =>
                  set({
                    pictures: on
                      ? [...value.pictures, picture.id]
                      : value.pictures.filter((id) => id !== picture.id),
                  })
                }
              >
                <span className="truncate text-[12.5px]">{picture.name}</span>
              </Check>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
