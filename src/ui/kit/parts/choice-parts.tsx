import { useState } from "react";
import { AddMenu } from "../add-menu";
import { Check, Choice } from "../check";
import { Combobox } from "../combobox";
import { Field, FieldGroup } from "../field";
import { PlainSelect } from "../plain-select";
import { Select, wordOptions } from "../select";
import { SelectSeveral } from "../select-several";
import { Shown, type OnPaper } from "./shown";

const STATES = ["Ready", "Building", "Review", "Ready for test", "Testing", "Live"];
const ITEMS = ["TIX-101 Timetable loads twice", "TIX-118 Seat map on small screens"];
const nothing = () => undefined;

export function ChoiceParts({ paper }: OnPaper) {
  const [state, setState] = useState("Review");
  const [several, setSeveral] = useState(["Ready", "Live"]);
  const [item, setItem] = useState("");
  const [search, setSearch] = useState("");
  const [ticked, setTicked] = useState(true);
  const [way, setWay] = useState("mail");
  const found = ITEMS.filter((each) => each.toLowerCase().includes(search.toLowerCase()));
  return (
    <>
      <Shown name="Select, SelectSeveral, Combobox">
        <Field label="State" className="w-44">
          <Select value={state} options={wordOptions(STATES)} onChange={setState} />
        </Field>
        <Field label="Not yours to change" className="w-44">
          <Select disabled value={state} options={wordOptions(STATES)} onChange={setState} />
        </Field>
        <Field label="Wrong" className="w-44">
          <Select invalid value={state} options={wordOptions(STATES)} onChange={setState} />
        </Field>
        <Field label="Without a frame" className="w-44">
          <Select plain value={state} options={wordOptions(STATES)} onChange={setState} />
        </Field>
        <FieldGroup label="Several">
          <SelectSeveral
            label="States"
            values={several}
            options={STATES.map((each) => ({ value: each, label: each }))}
            onChange={setSeveral}
          />
        </FieldGroup>
        <FieldGroup label="One of many" className="w-60">
          <Combobox
            label="Item"
            value={item}
            found={found.map((each) => ({ value: each, label: each }))}
            chosen={item || undefined}
            onSearch={setSearch}
            onChange={setItem}
          />
        </FieldGroup>
        <p className="w-full text-ink-soft">
          showing items in{" "}
          <Select
            words
            label="State in words"
            value={state}
            options={wordOptions(STATES)}
            onChange={setState}
          />{" "}
          of everybody
        </p>
      </Shown>
      <Shown name="Check, Choice, AddMenu, PlainSelect">
        <Check checked={ticked} onChange={setTicked}>
          Tell the reporter
        </Check>
        <Check checked={!ticked} onChange={(on) => setTicked(!on)}>
          Keep it quiet
        </Check>
        <Check disabled checked onChange={nothing}>
          Decided by the process
        </Check>
        {["mail", "form"].map((each) => (
          <Choice
            key={each}
            name={`way on ${paper}`}
            checked={way === each}
            onChange={() => setWay(each)}
          >
            by {each}
          </Choice>
        ))}
        {["yes", "no"].map((each) => (
          <Choice key={each} name={`unsaid on ${paper}`}>
            {each}
          </Choice>
        ))}
        <AddMenu
          label="Add a state"
          options={STATES.map((each) => ({ value: each, label: each }))}
          onAdd={setState}
        />
        <Field label="Without JavaScript" className="w-44">
          <PlainSelect options={STATES} none="choose…" value={state} onChange={nothing} />
        </Field>
      </Shown>
    </>
  );
}
