"use client";
import { counted } from "@/core/formats/counted";
import { Select } from "@/ui/kit/select";
import type { ProjectCodeHandle } from "./use-project-code";

/** Who commits under an address that nobody here is known by: a lead says who they are. */
export function Strangers({ handle: { view, name } }: { handle: ProjectCodeHandle }) {
  const { strangers, people } = view;
  if (strangers.length === 0)
    return <p className="text-ink-soft">Everybody who commits is known.</p>;
  const options = people.map(({ id, name: label }) => ({ value: id, label }));
  return (
    <>
      <p className="text-ink-soft">
        Commits are matched to people by their mail addresses. Nobody here is known by these: say
        who they are, and their commits, changes and reviews carry that name everywhere.
      </p>
      <ul className="mt-3 flex flex-col gap-3">
        {strangers.map(({ mail, name: said, commits }) => (
          <li key={mail} className="flex flex-wrap items-center gap-2" data-stranger={mail}>
            <span>
              <b>{said}</b> <code className="key">{mail}</code>, {counted(commits, "commit")}
            </span>
            <Select
              label={`Who commits as ${mail}`}
              className="!w-[190px]"
              value=""
              placeholder="is nobody known"
              options={options}
              onChange={(id) => {
                const who = people.find((one) => one.id === id)!.name;
                void name(mail, id, `${who} commits as ${mail}.`);
              }}
            />
          </li>
        ))}
      </ul>
    </>
  );
}
