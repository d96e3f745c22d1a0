"use client";
import { X } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { isFiltering } from "@/core/view/filter";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import type { LookHandle } from "./use-look";

/** The conditions that the project has named, and for leads the way to name one more. */
export function NameCondition({ handle }: { handle: LookHandle }) {
  const { views, look, send } = handle;
  const [name, setName] = useState("");
  if (!views.rights.lead && views.named.length === 0) return null;
  const store = async () => {
    const id = newId();
    try {
      await send({ kind: "name condition", id, name, condition: look.filter });
      tellDone(`“${name.trim()}” is one press now.`, () => send({ kind: "unname condition", id }));
      setName("");
    } catch (error) {
      tellProblem(error);
    }
  };
  const takeOut = async (taken: (typeof views.named)[number]) => {
    try {
      await send({ kind: "unname condition", id: taken.id });
      tellDone(`“${taken.name}” is no name any more.`, () =>
        send({ kind: "name condition", ...taken }),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <section aria-label="Named conditions" className="border-t border-line pt-2 text-[13px]">
      <h3 className="text-[13px]">Named conditions of the project</h3>
      <ul className="flex flex-wrap gap-1.5 py-1">
        {views.named.map((one) => (
          <li key={one.id} className="filter-part">
            <span className="filter-words">{one.name}</span>
            {views.rights.lead && (
              <button
                type="button"
                className="filter-out"
                aria-label={`Take the name ${one.name} away`}
                onClick={() => void takeOut(one)}
              >
                <X size={12} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
      </ul>
      {views.rights.lead && isFiltering(look.filter) && (
        <form
          className="flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void store();
          }}
        >
          <TextInput
            className="!w-[220px]"
            aria-label="Name for this filter"
            placeholder="a name for this filter"
            maxLength={60}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={name.trim() === ""}>
            Name it
          </Button>
        </form>
      )}
    </section>
  );
}
