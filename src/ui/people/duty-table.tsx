"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { listWords } from "@/core/formats/list-words";
import { peopleContract } from "@/core/people/contract";
import { DUTIES, type Duty, type DutyHolder } from "@/core/people/duty";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { SelectSeveral } from "@/ui/kit/select-several";
import { Table } from "@/ui/kit/table";

const MEANS: Record<Duty, string> = {
  triages: "judges what comes in: the desk counts for them in Today",
  reviews: "is offered what waits for review, where no reviewer is named",
  tests: "is told of what waits for test",
  releases: "sees in Today which release goes out next, and what is open in it",
  accepts: "says whether the work is what was wanted; nothing goes by it yet",
  plans: "puts the backlog in order; nothing goes by it yet",
};

/** Who has which duty in a project: people, or whole teams. */
export function DutyTable({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data: view } = useQuery(queryOf(peopleContract.members, { params }));
  if (!view) return null;
  const { duties, members, teams, mayEdit } = view;
  const names = new Map([...members, ...teams].map(({ id, name }) => [id, name]));
  const options = [
    ...teams.map(({ id, name }) => ({ value: `team ${id}`, label: `${name} (team)` })),
    ...members
      .filter(({ role }) => role !== "observer")
      .map(({ id, name }) => ({ value: `person ${id}`, label: name })),
  ];
  const valueOf = ({ holderKind, holderId }: DutyHolder) => `${holderKind} ${holderId}`;
  const set = async (duty: Duty, values: readonly string[]) => {
    const holders = values.map((value): DutyHolder => {
      const [holderKind, holderId] = value.split(/ (.*)/s);
      return { duty, holderKind: holderKind as DutyHolder["holderKind"], holderId };
    });
    const others = duties.filter((one) => one.duty !== duty);
    try {
      client.setQueryData(
        keyOf(peopleContract.members, { params }),
        await ask(peopleContract.setDuties, { params, body: { holders: [...others, ...holders] } }),
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <section aria-label="Duties">
      <h2 className="text-[15px]">Duties</h2>
      <p className="mb-1 text-[12.5px] text-ink-soft">
        What somebody does here, beside the role that says what they may. Where nobody is named,
        every member has the duty.
      </p>
      <Table
        label="Duties"
        className="w-full max-w-[1100px]"
        rows={DUTIES}
        keyOf={(duty) => duty}
        dataOf={(duty) => ({ "data-duty": duty })}
        columns={[
          { head: "Duty", cell: (duty) => <b>{duty}</b> },
          { head: "Means", className: "text-ink-soft", cell: (duty) => MEANS[duty] },
          {
            head: "Who",
            cell: (duty) => {
              const own = duties.filter((one) => one.duty === duty);
              return mayEdit ? (
                <SelectSeveral
                  label={`Who ${duty}`}
                  className="!w-[280px]"
                  none="every member"
                  values={own.map(valueOf)}
                  options={options}
                  onChange={(values) => void set(duty, values)}
                />
              ) : own.length === 0 ? (
                "every member"
              ) : (
                listWords(
                  own.map(({ holderId }) => names.get(holderId) ?? "a former member"),
                  "and",
                )
              );
            },
          },
        ]}
      />
    </section>
  );
}
