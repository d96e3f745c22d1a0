import { writeFileSync } from "node:fs";
import path from "node:path";
import type { HostChange, HostState } from "../../standins/code/state";
import type { Target } from "../../standins/sender";
import { mailOf, PEOPLE } from "../people";
import type { DemoCode } from "./with-code";

const personOf = (id: string) => {
  const person = PEOPLE.find((one) => one.id === id)!;
  return { name: person.name, mail: mailOf(person) };
};

/** Writes down for the code host what it did so far, beside its repositories. */
export function writeHostMemory(
  folder: string,
  codes: readonly DemoCode[],
  targets: readonly Target[],
): void {
  const state: HostState = {
    changes: codes.flatMap(changesOf),
    targets: [...targets],
    ...{ tokens: [], events: [], owesNews: true },
  };
  writeFileSync(path.join(folder, "host.json"), JSON.stringify(state), { mode: 0o600 });
}

const changesOf = ({ name: repository, stories, made }: DemoCode): HostChange[] =>
  stories.flatMap(({ story, change: called }): HostChange[] => {
    const { change, commits, branch, item } = story;
    if (change === null) return [];
    const { commits: hashes, mergedAs } = made.byStory.get(story)!;
    return [
      {
        ...{
          repository,
          number: Number(called.split("/")[1]),
          title: item.title,
          branch,
          mergedAs,
        },
        status: change.mergedAt === null ? "open" : "merged",
        ...{ author: personOf(commits[0].byId), head: hashes.at(-1)! },
        ...{ openedAt: change.openedAt, endedAt: change.mergedAt },
        reviews: change.reviews.map(({ byId, verdict, at, after }) => ({
          ...{ by: personOf(byId), verdict, words: "", at, head: hashes[after - 1] },
        })),
      },
    ];
  });
