"use client";
import { atLevel, levelIn } from "@/core/view/level";
import { useOfferedActs } from "@/ui/kit/offered-acts";
import { Select } from "@/ui/kit/select";
import type { LookHandle } from "./use-look";

const ANY = "";

/** Of which level what is looked at is, as part of the sentence; only where there are several. */
export function LevelSwitch({ handle: { look, views, change } }: { handle: LookHandle }) {
  const { levels } = views.vocabulary;
  const several = levels.length > 1;
  const level = levelIn(look.filter);
  const go = (to: string) => change(atLevel(look, to === ANY ? null : to, views.boards));
  const options = [
    { value: ANY, label: "any level" },
    ...levels.map(({ id, name }) => ({ value: id, label: name })),
  ];
  useOfferedActs("level", [
    ...(several
      ? [
          {
            id: "level",
            words: "Level",
            also: ["switch level"],
            choices: options
              .filter(({ value }) => value !== (level ?? ANY))
              .map(({ value, label }) => ({ id: value, words: label })),
            act: (choice = ANY) => go(choice),
          },
        ]
      : []),
  ]);
  if (!several) return null;
  return (
    <>
      <span>of</span>
      <Select label="Of the level" words value={level ?? ANY} options={options} onChange={go} />
    </>
  );
}
