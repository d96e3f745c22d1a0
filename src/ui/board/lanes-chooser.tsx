"use client";
import {
  areByPeople,
  lanesByField,
  lanesWords,
  MOST_LANE_CONDITIONS,
  NO_LANES,
  type LaneCondition,
  type Lanes,
} from "@/core/board/lanes-by";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { isCounted } from "@/core/item/list/listed";
import { Check } from "@/ui/kit/check";
import { CommitText } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { Popover } from "@/ui/kit/popover";
import { namedOptions, Select } from "@/ui/kit/select";
import { ConditionList } from "./condition-list";
import type { LookHandle } from "@/ui/view/use-look";

const BY_CONDITIONS = "by conditions";

/** By what a board is cut into lanes, in the sentence above it. */
export function LanesChooser({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary, named } = views;
  const { lanes } = look;
  const { by } = lanes;
  const put = (next: Partial<Lanes>) => change({ lanes: { ...lanes, ...next } });
  const first: LaneCondition = named[0]
    ? { name: named[0].name, condition: named[0].condition }
    : {
        name: "Urgent",
        condition: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
      };
  const choose = (value: string) => {
    const kept = { rest: lanes.rest, empty: lanes.empty };
    if (value === "none") return put({ ...NO_LANES, ...kept });
    if (value === "parent") return put({ ...NO_LANES, ...kept, by: { kind: "parent" } });
    if (value === BY_CONDITIONS)
      return put({ ...NO_LANES, ...kept, by: { kind: "conditions", of: [first] } });
    put({ ...lanesByField(value as FactName), ...kept });
  };
  const facts = factsOffered(vocabulary).filter(isCounted);
  return (
    <>
      <span>in lanes by</span>
      <Popover
        label="Lanes"
        className="max-h-[70vh] w-[420px] overflow-y-auto"
        trigger={
          <button
            type="button"
            className="in-words max-w-[260px] truncate"
            aria-label={`In lanes by ${lanesWords(lanes, vocabulary)}`}
          >
            {lanesWords(lanes, vocabulary)}
          </button>
        }
      >
        <div className="flex flex-col gap-2">
          <Field label="In lanes by">
            <Select
              value={
                by.kind === "field" ? by.fact : by.kind === "conditions" ? BY_CONDITIONS : by.kind
              }
              placeholder="a field that is gone"
              options={[
                { value: "none", label: "expedite first, nothing else" },
                { value: "parent", label: "what they are under" },
                { value: BY_CONDITIONS, label: "conditions, the first that is true" },
                {
                  group: "A field",
                  options: facts.map((fact) => ({
                    value: fact as string,
                    label: factLabel(fact, vocabulary),
                  })),
                },
              ]}
              onChange={choose}
            />
          </Field>
          {areByPeople(lanes) && (
            <Field label="Whose lanes">
              <Select
                value={lanes.teamId ?? ""}
                options={[{ value: "", label: "everybody's" }, ...namedOptions(vocabulary.teams)]}
                onChange={(teamId) => put({ teamId: teamId || null })}
              />
            </Field>
          )}
          {by.kind === "conditions" && (
            <ConditionList
              handle={handle}
              label="Lanes, the first that is true"
              addLabel="Add a lane"
              items={by.of}
              most={MOST_LANE_CONDITIONS}
              nameOf={(lane) => lane.name}
              made={(name, condition) => ({ name: name ?? `Lane ${by.of.length + 1}`, condition })}
              head={({ name }, i, set) => (
                <CommitText
                  label={`Name of lane ${i + 1}`}
                  value={name}
                  disabled={false}
                  required
                  onCommit={(next) => set({ name: next })}
                />
              )}
              onChange={(of) =>
                of.length === 0 ? put(NO_LANES) : put({ by: { kind: "conditions", of } })
              }
            />
          )}
          {by.kind !== "none" && (
            <>
              <Field label="Everything else">
                <Select
                  value={lanes.rest}
                  options={[
                    { value: "below", label: "below the lanes" },
                    { value: "above", label: "above the lanes" },
                  ]}
                  onChange={(rest) => put({ rest })}
                />
              </Field>
              {by.kind !== "parent" && (
                <Check checked={lanes.empty} onChange={(empty) => put({ empty })}>
                  Lanes that hold nothing, too
                </Check>
              )}
            </>
          )}
        </div>
      </Popover>
    </>
  );
}
