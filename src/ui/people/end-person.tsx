"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { AccountRow } from "@/core/people/account";
import { peopleContract } from "@/core/people/contract";
import { Field } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone } from "@/ui/kit/notice";
import { ask, problemOf, queryOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";

/** Ends somebody who left; what they have in hand goes to others in the same step. */
export function EndPersonForm({
  person,
  onDone,
  onLeave,
}: {
  person: AccountRow;
  onDone: () => void;
  onLeave: () => void;
}) {
  const params = { id: person.id };
  const { data } = useQuery(queryOf(peopleContract.hands, { params }));
  const [heirs, setHeirs] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  if (!data) return <p className="text-ink-soft">Looking what {person.name} has in hand…</p>;
  const end = async () => {
    setBusy(true);
    const handOn = data.projects.map(({ id }) => ({ projectId: id, personId: heirs[id] || null }));
    try {
      const { handedOn, left } = await ask(peopleContract.endPerson, {
        params,
        body: { ended: true, handOn },
      });
      tellDone(endedWords(person.name, handedOn, left));
      onDone();
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setProblem(`${sentence} ${help}`);
      setBusy(false);
    }
  };
  return (
    <form
      aria-label={`End ${person.name}`}
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void end();
      }}
    >
      <p className="text-[13px] text-ink-soft">
        {person.name} cannot sign in any more and leaves every project. What they did keeps their
        name.
      </p>
      {data.projects.length === 0 && <p>They have nothing open in hand.</p>}
      {data.projects.map((of) => (
        <Field key={of.id} label={`${of.name}: ${handsWords(of)} go to`}>
          <Select
            value={heirs[of.id] ?? ""}
            options={[{ value: "", label: "Nobody yet" }, ...namedOptions(of.people)]}
            onChange={(id) => setHeirs({ ...heirs, [of.id]: id })}
          />
        </Field>
      ))}
      <FormFooter send={`End ${person.name}`} busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}

const handsWords = ({ assigned, reviews }: { assigned: number; reviews: number }): string =>
  [assigned > 0 ? counted(assigned, "item") : null, reviews > 0 ? counted(reviews, "review") : null]
    .filter((part) => part !== null)
    .join(" and ");

function endedWords(name: string, handedOn: number, left: number): string {
  const gone = `${name} has left.`;
  if (handedOn + left === 0) return gone;
  const refused =
    left === 0
      ? ""
      : ` ${counted(left, "item")} could not be, and ${left === 1 ? "has" : "have"} nobody now.`;
  return `${gone} ${counted(handedOn, "item")} handed on.${refused}`;
}
