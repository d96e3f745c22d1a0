"use client";
import { useState } from "react";
import { bulkContract, LONGEST_SENTENCE } from "@/core/item/bulk/contract";
import { counted } from "@/core/formats/counted";
import { Button } from "@/ui/kit/button";
import { Field, FieldGroup, TextArea } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { tellDone } from "@/ui/kit/notice";
import { ask, problemOf } from "@/ui/kit/request";
import { SelectSeveral } from "@/ui/kit/select-several";
import type { Given } from "./bulk-form";

/** Points the chosen items out to people and teams, with a sentence; one alert each. */
export function PointOutForm({ given }: { given: Given }) {
  const { projectKey, items, vocabulary, onDone } = given;
  const [people, setPeople] = useState<string[]>([]);
  const [teams, setTeams] = useState<string[]>([]);
  const [sentence, setSentence] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const send = async () => {
    try {
      const { told, untold } = await ask(bulkContract.pointOut, {
        params: { key: projectKey },
        body: { items, personIds: people, teamIds: teams, sentence },
      });
      const missed =
        untold.length === 0 ? "" : ` ${untold.join(", ")} may see none of them and is not told.`;
      tellDone(`Pointed out to ${counted(told.length, "person", "people")}.${missed}`);
      onDone();
    } catch (error) {
      const { sentence: said, help } = problemOf(error);
      setProblem(`${said} ${help}`);
    }
  };
  const named = (things: readonly { id: string; name: string }[]) =>
    things.map(({ id, name }) => ({ value: id, label: name }));
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <FieldGroup label="To whom?">
        <SelectSeveral
          label="People"
          none="nobody yet"
          values={people}
          options={named(vocabulary.people)}
          onChange={setPeople}
        />
        <SelectSeveral
          label="Teams"
          none="no team"
          values={teams}
          options={named(vocabulary.teams)}
          onChange={setTeams}
        />
      </FieldGroup>
      <Field label="Why should they look?">
        <TextArea
          required
          rows={2}
          maxLength={LONGEST_SENTENCE}
          value={sentence}
          onChange={(event) => setSentence(event.target.value)}
        />
      </Field>
      {problem && <FormProblem>{problem}</FormProblem>}
      <Button
        type="submit"
        look="accent"
        disabled={sentence.trim() === "" || people.length + teams.length === 0}
      >
        Point out
      </Button>
    </form>
  );
}
