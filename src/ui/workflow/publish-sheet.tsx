"use client";
import { Note } from "@/ui/kit/note";
import { ChangeLines } from "./change-lines";
import { Select, namedOptions } from "@/ui/kit/select";
import { Button } from "@/ui/kit/button";
import { Field, TextInput } from "@/ui/kit/field";
import { counted } from "@/core/formats/counted";
import { useState } from "react";
import { statesInOrder } from "@/core/workflow/workflow";
import type { Designer } from "./use-designer";

/**
 * The difference in words, where items of states that go shall be, and the button that binds
 * everybody.
 */
export function PublishSheet({
  designer,
  counts,
  onClose,
}: {
  designer: Designer;
  counts: Record<string, number>;
  onClose: () => void;
}) {
  const { running, draft, changes, findings, publish } = designer;
  const states = statesInOrder(draft);
  const gone = running.states.filter(
    (s) => !draft.states.some((d) => d.id === s.id) && (counts[s.id] ?? 0) > 0,
  );
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const [note, setNote] = useState("");
  const [busy, setBusy] = useState(false);
  const traps = findings.filter((f) => f.severity === "trap");
  const open = gone.filter((s) => !chosen[s.id]);
  return (
    <section aria-label="Publish" className="flex max-w-[760px] flex-col gap-4">
      <div>
        <h2 className="text-[17px]">What changes for everybody</h2>
        <ChangeLines changes={changes} />
        {changes.length === 0 && (
          <p className="text-ink-soft">Nothing: the draft is the same as what runs.</p>
        )}
      </div>
      {gone.map((s) => (
        <label key={s.id} className="flex items-center gap-2">
          <span>
            <b>{counted(counts[s.id], "item")}</b> in {s.name} {counts[s.id] === 1 ? "goes" : "go"}{" "}
            to
          </span>
          <span className="w-56">
            <Select
              label={`New state of what is in ${s.name}`}
              value={chosen[s.id] ?? ""}
              options={[{ value: "", label: "Choose a state" }, ...namedOptions(states)]}
              onChange={(id) => setChosen((c) => ({ ...c, [s.id]: id }))}
            />
          </span>
        </label>
      ))}
      {traps.map((f) => (
        <Note kind="problem" key={f.sentence}>
          {f.sentence}
        </Note>
      ))}
      <Field label="Why (kept with the version)">
        <TextInput
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          placeholder="Agreed in the retrospective"
        />
      </Field>
      <div className="flex gap-2">
        <Button
          look="strong"
          disabled={busy || traps.length > 0 || open.length > 0 || changes.length === 0}
          onClick={async () => {
            setBusy(true);
            if (await publish(chosen, note)) onClose();
            setBusy(false);
          }}
        >
          {busy ? "Publishing…" : `Publish version ${running.version + 1}`}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Back to the draft
        </Button>
      </div>
      <p className="text-[12.5px] text-ink-soft">
        Items stay where they are unless it says otherwise above. Open boards follow at once, and
        the version before is kept.
      </p>
    </section>
  );
}
