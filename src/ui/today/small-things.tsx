"use client";
import { readSize, stepsAsText } from "@/core/plan/size-scale";
import { useSizes } from "@/ui/kit/sizes";
import { useState, type FormEvent } from "react";
import type { DayLine } from "@/core/today/day";
import type { SmallThingLine } from "@/core/today/housekeeping";
import type { TodayView } from "@/core/today/today-view";
import { Button, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { namedOptions, Select } from "@/ui/kit/select";
import type { Today } from "./day-row";

/** Small things to put right on the spot, or to put to rest with a reason. */
export function SmallThings({
  view,
  today,
  onOpen,
}: {
  view: TodayView;
  today: Today;
  onOpen: (line: Pick<DayLine, "card" | "projectKey">) => void;
}) {
  if (view.small.length === 0) return null;
  return (
    <section aria-label="Small things to put right">
      <h2>Small things to put right</h2>
      <ul className="beside-lines">
        {view.small.map((line) => (
          <li key={`${line.thing} ${line.card.id}`}>
            <Thing line={line} view={view} today={today} onOpen={() => onOpen(line)} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Thing({
  line,
  view,
  today,
  onOpen,
}: {
  line: SmallThingLine;
  view: TodayView;
  today: Today;
  onOpen: () => void;
}) {
  const [resting, setResting] = useState(false);
  const { card, words, thing } = line;
  return (
    <div className="small-thing">
      <p>
        <TextButton className="key" title={card.title} onClick={onOpen}>
          {card.key}
        </TextButton>{" "}
        {words}
      </p>
      {resting ? (
        <Rest
          onLeave={() => setResting(false)}
          onRest={(why) => void today.rest(line, why)}
          of={card.key}
        />
      ) : (
        <div className="flex flex-wrap items-center gap-x-3 text-[13px]">
          {thing === "untouched" && (
            <TextButton onClick={() => void today.rest(line, "Still on it.")}>
              Still on it<span className="sr-only">: {card.key}</span>
            </TextButton>
          )}
          {thing === "no owner" && (
            <Select
              label={`Owner of ${card.key}`}
              plain
              className="!w-auto"
              placeholder="Choose an owner"
              value=""
              options={namedOptions(view.people.filter(({ role }) => role !== "observer"))}
              onChange={(assigneeId) => void today.mend(line, { assigneeId })}
            />
          )}
          {(thing === "no size" || thing === "unsized bug") && (
            <SizeHere of={card.key} onSize={(estimate) => void today.mend(line, { estimate })} />
          )}
          <TextButton onClick={() => setResting(true)}>
            It may stay so<span className="sr-only">: {card.key}</span>
          </TextButton>
        </div>
      )}
    </div>
  );
}

function SizeHere({ of, onSize }: { of: string; onSize: (size: number) => void }) {
  const [size, setSize] = useState("");
  const scale = useSizes();
  const n = readSize(size, scale);
  return (
    <form
      className="inline-flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (n !== null) onSize(n);
      }}
    >
      <TextInput
        className="!w-14"
        inputMode="decimal"
        aria-label={`Size of ${of}`}
        placeholder="size"
        title={stepsAsText(scale)}
        maxLength={12}
        value={size}
        onChange={(event) => setSize(event.target.value)}
      />
      {n !== null && (
        <Button small type="submit">
          Size it
        </Button>
      )}
    </form>
  );
}

function Rest({
  of,
  onRest,
  onLeave,
}: {
  of: string;
  onRest: (why: string) => void;
  onLeave: () => void;
}) {
  const [why, setWhy] = useState("");
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (why.trim()) onRest(why);
  };
  return (
    <form onSubmit={send} className="flex items-center gap-2">
      <TextInput
        aria-label={`Why ${of} may stay so`}
        placeholder="Why it may stay so"
        maxLength={300}
        autoFocus
        value={why}
        onChange={(event) => setWhy(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && onLeave()}
      />
      <Button small type="submit" disabled={!why.trim()}>
        Put to rest
      </Button>
    </form>
  );
}
