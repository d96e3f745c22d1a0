"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { planContract } from "@/core/plan/contract";
import type { PlanSettings } from "@/core/plan/plan-settings";
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
  const each = unit === "weeks" ? 7 : 1;
  const change = (part: Partial<PlanSettings>) => setDraft({ ...draft, ...part });
  return (
    <form
      aria-label="How we plan"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void store(draft, "How the project plans is changed.").then((done) => done && onLeave());
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
      <FormFooter send="Store it" onLeave={onLeave} />
    </form>
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
