import { useState } from "react";
import { CommitNumber, CommitText } from "../commit-input";
import { DateInput } from "../date-input";
import { Field, FieldGroup, TextArea, TextInput } from "../field";
import { FilePick } from "../file-pick";
import { TimeInput } from "../time-input";
import { Shown } from "./shown";

const nothing = () => undefined;

export function FieldParts() {
  const [text, setText] = useState("Boarding pass is blank");
  const [day, setDay] = useState("2026-11-28");
  const [time, setTime] = useState("09:30");
  const [name, setName] = useState("Ready for test");
  const [limit, setLimit] = useState<number | null>(4);
  return (
    <>
      <Shown name="Field, TextInput, TextArea">
        <Field label="Title" className="w-56">
          <TextInput value={text} onChange={(e) => setText(e.target.value)} />
        </Field>
        <Field label="With a hint" hint="As the passenger says it" className="w-56">
          <TextInput placeholder="What happened?" />
        </Field>
        <Field label="With a fault" problem="Fill it in first." className="w-56">
          <TextInput aria-invalid />
        </Field>
        <Field label="Not yours to change" className="w-56">
          <TextInput disabled value="Ferry 7" onChange={nothing} />
        </Field>
        <Field label="Without a frame" className="w-56">
          <TextInput plain value={text} onChange={(e) => setText(e.target.value)} />
        </Field>
        <Field label="Long text" className="w-full">
          <TextArea rows={2} placeholder="What was expected, and what came instead" />
        </Field>
      </Shown>
      <Shown name="CommitText, CommitNumber">
        <Field label="Takes effect when left" className="w-56">
          <CommitText value={name} disabled={false} onCommit={setName} />
        </Field>
        <Field label="Limit" className="w-24">
          <CommitNumber value={limit} disabled={false} onCommit={setLimit} />
        </Field>
      </Shown>
      <Shown name="DateInput, TimeInput, FilePick">
        <Field label="Release on">
          <DateInput value={day} onChange={setDay} />
        </Field>
        <Field label="Not before today">
          <DateInput value="2026-01-01" min="2026-11-26" onChange={nothing} />
        </Field>
        <FieldGroup label="Opens at">
          <TimeInput label="Opens at" value={time} onChange={setTime} />
        </FieldGroup>
        <Field label="Pictures" className="min-w-60 flex-1">
          <FilePick multiple words="Choose files" onFiles={nothing} />
        </Field>
      </Shown>
    </>
  );
}
