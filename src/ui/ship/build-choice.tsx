"use client";
import type { MainView } from "@/core/ship/what-is-where-view";
import { Field } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import type { DeployWish } from "./environment-head";

type Chosen = Pick<DeployWish, "repository" | "build">;

/** Which build: the latest of each repository, and the one that was asked for. */
export function BuildChoice({
  mains,
  chosen: { repository, build },
  onChoose,
}: {
  mains: readonly MainView[];
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}) {
  const offered = mains.map((main): { group: string; builds: Chosen[] } => {
    const names = main.builds.map(({ name }) => name);
    const own = main.repository === repository ? [build, ...names] : names;
    return {
      group: main.repository,
      builds: [...new Set(own)].map((name) => ({ repository: main.repository, build: name })),
    };
  });
  const all = offered.flatMap(({ builds }) => builds);
  const valueOf = (one: Chosen) => `${one.repository} ${one.build}`;
  const optionsOf = (builds: readonly Chosen[]) =>
    builds.map((one) => ({ value: valueOf(one), label: one.build }));
  const label = `Build of ${repository}`;
  return (
    <Field label={label}>
      <Select
        label={label}
        value={valueOf({ repository, build })}
        options={
          offered.length === 1
            ? optionsOf(all)
            : offered.map(({ group, builds }) => ({ group, options: optionsOf(builds) }))
        }
        onChange={(value) => {
          const found = all.find((one) => valueOf(one) === value);
          if (found) onChoose(found);
        }}
      />
    </Field>
  );
}
