"use client";
import type { Sharing, Views } from "@/core/view/view";
import { Choice } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";

/** Whose a view can be, as it is said where one is made. */
const SHARING_WORDS: Record<Sharing, string> = {
  mine: "mine alone",
  shown: "mine, and everybody sees it",
  project: "the project’s, leads change it",
};

/** The ways in which a person may share a view. */
const sharingsFor = ({ share, lead }: Views["rights"]): Sharing[] => [
  "mine",
  ...(share ? (["shown"] as const) : []),
  ...(lead ? (["project"] as const) : []),
];

/** What a view is called, and whose it is. */
export function SharingFields({
  rights,
  name,
  onName,
  sharing,
  onSharing,
}: {
  rights: Views["rights"];
  name: string;
  onName: (name: string) => void;
  sharing: Sharing;
  onSharing: (sharing: Sharing) => void;
}) {
  return (
    <>
      <Field label="Name">
        <TextInput
          autoFocus
          maxLength={60}
          value={name}
          onChange={(event) => onName(event.target.value)}
        />
      </Field>
      <FieldGroup label="Whose it is">
        {sharingsFor(rights).map((each) => (
          <Choice
            key={each}
            name="sharing"
            checked={sharing === each}
            onChange={() => onSharing(each)}
          >
            {SHARING_WORDS[each]}
          </Choice>
        ))}
      </FieldGroup>
    </>
  );
}
