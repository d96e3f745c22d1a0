"use client";
import { useState } from "react";
import type { Sharing } from "@/core/view/view";
import { Button } from "@/ui/kit/button";
import { Choice } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import type { LookHandle } from "./use-look";

/** Whose a view can be, as it is said where one is made. */
export const SHARING_WORDS: Record<Sharing, string> = {
  mine: "mine alone",
  shown: "mine, and everybody sees it",
  project: "the project’s, leads change it",
};

/** The ways in which a person may share a view. */
export const sharingsFor = ({ share, lead }: LookHandle["views"]["rights"]): Sharing[] => [
  "mine",
  ...(share ? (["shown"] as const) : []),
  ...(lead ? (["project"] as const) : []),
];

/** Gives a name to what is looked at, and says who sees it. */
export function KeepAs({ handle, onDone }: { handle: LookHandle; onDone: () => void }) {
  const [name, setName] = useState("");
  const [sharing, setSharing] = useState<Sharing>("mine");
  const [problem, setProblem] = useState<string | null>(null);
  const store = async () => {
    try {
      await handle.keepAs(name.trim(), sharing);
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
    }
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void store();
      }}
    >
      <Field label="Name">
        <TextInput
          autoFocus
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <FieldGroup label="Whose it is">
        {sharingsFor(handle.views.rights).map((each) => (
          <Choice
            key={each}
            name="sharing"
            checked={sharing === each}
            onChange={() => setSharing(each)}
          >
            {SHARING_WORDS[each]}
          </Choice>
        ))}
      </FieldGroup>
      {problem && <FormProblem>{problem}</FormProblem>}
      <Button type="submit" look="accent" disabled={name.trim() === ""}>
        Keep the view
      </Button>
    </form>
  );
}
