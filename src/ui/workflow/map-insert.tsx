"use client";
import { useState, type FormEvent } from "react";
import { counted } from "@/core/formats/counted";
import { proposedVerb } from "@/core/workflow/edit";
import type { Track } from "@/core/workflow/layout";
import type { Between } from "@/core/workflow/path";
import { PLAIN_STATE, type State } from "@/core/workflow/state";
import { Button } from "@/ui/kit/button";
import { Choice } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { Select, wordOptions } from "@/ui/kit/select";

/** What comes between two states. */
export interface Inserted {
  name: string;
  kind: "waiting" | "working";
  between: Pick<Between, "verbs" | "rulesOn">;
}

/** Asks what is put into a move, what both halves are called, and which keeps its rules. */
export function InsertForm({
  track: { transition },
  from,
  to,
  onInsert,
  onLeave,
}: {
  track: Track;
  from: State;
  to: State;
  onInsert: (inserted: Inserted) => void;
  onLeave: () => void;
}) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Inserted["kind"]>(
    from.kind === "working" ? "waiting" : "working",
  );
  const [inward, setInward] = useState<string | null>(null);
  const [onward, setOnward] = useState(transition.verb);
  const [rulesOn, setRulesOn] = useState<Between["rulesOn"]>("onward");
  const rules =
    transition.requirements.length + transition.followUps.length + transition.who.length;
  const proposed = proposedVerb(from, {
    ...PLAIN_STATE,
    id: "",
    name: name.trim() || "it",
    kind,
    stage: null,
    position: from.position + 1,
  });
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return;
    const verbs: Between["verbs"] = [(inward ?? proposed).trim() || proposed, onward.trim()];
    onInsert({ name: name.trim(), kind, between: { verbs, rulesOn } });
  };
  return (
    <form
      aria-label={`Between ${from.name} and ${to.name}`}
      onSubmit={send}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") onLeave();
      }}
      className="absolute inset-x-3 bottom-2 z-10 flex flex-wrap items-end gap-x-3 gap-y-2 rounded-[3px] border border-line-strong bg-sheet px-3 py-2"
    >
      <p className="w-full text-[13px]">
        Between <b>{from.name}</b> and <b>{to.name}</b>
      </p>
      <Field label="Name of the state" className="w-44">
        <TextInput
          autoFocus
          required
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </Field>
      <Field label="There it is" className="w-28">
        <Select
          value={kind}
          options={wordOptions(["waiting", "working"] as const)}
          onChange={(next) => setKind(next)}
        />
      </Field>
      <Field label="The move into it" className="w-40">
        <TextInput
          required
          maxLength={60}
          value={inward ?? proposed}
          onChange={(e) => setInward(e.target.value)}
        />
      </Field>
      <Field label="The move out of it" className="w-40">
        <TextInput
          required
          maxLength={60}
          value={onward}
          onChange={(e) => setOnward(e.target.value)}
        />
      </Field>
      {rules > 0 && (
        <div role="radiogroup" aria-label="Its rules" className="flex flex-col text-[13px]">
          <span className="text-[12.5px] font-semibold">
            Its {counted(rules, "rule")} stay with
          </span>
          <span className="flex gap-3">
            <Choice
              name="rules"
              checked={rulesOn === "inward"}
              onChange={() => setRulesOn("inward")}
            >
              the way in
            </Choice>
            <Choice
              name="rules"
              checked={rulesOn === "onward"}
              onChange={() => setRulesOn("onward")}
            >
              the way out
            </Choice>
          </span>
        </div>
      )}
      <span className="ml-auto flex gap-2">
        <Button small look="quiet" onClick={onLeave}>
          Leave it
        </Button>
        <Button small look="accent" type="submit" disabled={!name.trim()}>
          Put it in
        </Button>
      </span>
    </form>
  );
}
