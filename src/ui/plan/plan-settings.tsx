"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { planContract } from "@/core/plan/contract";
import type { PlanSettings } from "@/core/plan/plan-settings";
import {
  FIRST_SCALES,
  readSteps,
  SCALE_KINDS,
  stepsAsText,
  type ScaleKind,
} from "@/core/plan/size-scale";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { FieldGroup, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";

/** Changes how a project plans; it can be taken back. */
export function usePlanSettings(projectKey: string, before: PlanSettings) {
  const router = useRouter();
  const store = async (settings: Partial<PlanSettings>) => {
    await ask(planContract.settings, { params: { key: projectKey }, body: settings });
    router.refresh();
  };
  /** @returns whether it was stored */
  return async (settings: Partial<PlanSettings>, done: string): Promise<boolean> => {
    try {
      await store(settings);
      tellDone(done, () => store(before));
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    }
  };
}

const HOW: Record<ScaleKind, string> = {
  points: "Write numbers, as in 1 2 3 5 8.",
  letters: "Write each with its number, as in S=1 M=3 L=8.",
  hours: "Write numbers, as in 1 2 4 8.",
};

/** How a project plans: in sprints or not, how long they are, where new items go. */
export function PlanSettingsForm({
  projectKey,
  settings,
  onLeave,
}: {
  projectKey: string;
  settings: PlanSettings;
  onLeave: () => void;
}) {
  const store = usePlanSettings(projectKey, settings);
  const [draft, setDraft] = useState(settings);
  const [unit, setUnit] = useState<"weeks" | "days">(
    settings.sprintDays % 7 === 0 ? "weeks" : "days",
  );
  const [steps, setSteps] = useState(() => stepsAsText(settings.sizeScale));
  const [problem, setProblem] = useState<string | null>(null);
  const each = unit === "weeks" ? 7 : 1;
  const change = (part: Partial<PlanSettings>) => setDraft({ ...draft, ...part });
  return (
    <form
      aria-label="How we plan"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const read = readSteps(steps, draft.sizeScale.kind);
        if (read === null)
          return setProblem(`The sizes cannot be read. ${HOW[draft.sizeScale.kind]}`);
        setProblem(null);
        const wanted = { ...draft, sizeScale: { ...draft.sizeScale, steps: read } };
        void store(wanted, "How the project plans is changed.").then((done) => done && onLeave());
      }}
    >
      <Check checked={draft.usesSprints} onChange={(usesSprints) => change({ usesSprints })}>
        We plan in sprints
      </Check>
      {!draft.usesSprints && settings.usesSprints && (
        <p className="text-[13px] text-ink-soft">
          The sprints that there are stay, with all that is in them, and are here again once this is
          switched on.
        </p>
      )}
      {draft.usesSprints && (
        <>
          <FieldGroup label="A sprint usually lasts">
            <span className="flex items-center gap-2 font-normal">
              <TextInput
                aria-label="How long a sprint usually lasts"
                type="number"
                min={1}
                max={98 / each}
                required
                className="!w-[72px]"
                value={draft.sprintDays / each}
                onChange={(event) => change({ sprintDays: Number(event.target.value) * each })}
              />
              <Select
                label="Days or weeks"
                className="!w-[110px]"
                value={unit}
                options={[
                  { value: "weeks", label: "weeks" },
                  { value: "days", label: "days" },
                ]}
                onChange={(next) => {
                  setUnit(next as typeof unit);
                  const weeks = Math.max(1, Math.round(draft.sprintDays / 7));
                  if (next === "weeks") change({ sprintDays: weeks * 7 });
                }}
              />
            </span>
          </FieldGroup>
          <Check
            checked={draft.newIntoSprint}
            onChange={(newIntoSprint) => change({ newIntoSprint })}
          >
            Every new item goes into the sprint that runs
          </Check>
        </>
      )}
      <Scale
        text={steps}
        kind={draft.sizeScale.kind}
        onKind={(kind) => {
          change({ sizeScale: FIRST_SCALES[kind] });
          setSteps(stepsAsText(FIRST_SCALES[kind]));
        }}
        onText={setSteps}
      />
      <FormFooter send="Store it" problem={problem} onLeave={onLeave} />
    </form>
  );
}

const KIND_WORDS: Record<ScaleKind, string> = {
  points: "in points",
  letters: "in letters, with points behind them",
  hours: "in hours",
};

/** From which sizes the project chooses. */
function Scale({
  kind,
  text,
  onKind,
  onText,
}: {
  kind: ScaleKind;
  text: string;
  onKind: (kind: ScaleKind) => void;
  onText: (text: string) => void;
}) {
  return (
    <FieldGroup label="Sizes">
      <span className="flex flex-col gap-2 font-normal">
        <Select
          label="In what sizes are said"
          value={kind}
          options={SCALE_KINDS.map((one) => ({ value: one, label: KIND_WORDS[one] }))}
          onChange={(next) => onKind(next as ScaleKind)}
        />
        <TextInput
          aria-label="The sizes, the smallest first"
          required
          maxLength={160}
          value={text}
          onChange={(event) => onText(event.target.value)}
        />
      </span>
    </FieldGroup>
  );
}

/** Said where sprints are asked for in a project that does without them, with the switch. */
export function WithoutSprints({
  projectKey,
  projectName,
  settings,
  maySwitch,
}: {
  projectKey: string;
  projectName: string;
  settings: PlanSettings;
  maySwitch: boolean;
}) {
  const store = usePlanSettings(projectKey, settings);
  return (
    <div className="flex flex-col items-center gap-3 px-4 py-16 text-center">
      <h1 className="text-[18px]">{projectName} plans without sprints</h1>
      <p className="max-w-[460px] text-ink-soft">
        Items are pulled from the backlog as there is room for them. Sprints that it had before are
        kept with all that was in them.
        {!maySwitch && " Its leads can switch sprints on."}
      </p>
      {maySwitch && (
        <Button
          look="accent"
          onClick={() => void store({ usesSprints: true }, `${projectName} plans in sprints.`)}
        >
          Plan in sprints
        </Button>
      )}
    </div>
  );
}
