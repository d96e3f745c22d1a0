"use client";
import { Table } from "@/ui/kit/table";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { tellProblem } from "@/ui/kit/notice";
import { peopleContract } from "@/core/people/contract";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

type Role = "lead" | "member" | "observer";

const ROLE_WORDS: Record<Role, string> = {
  lead: "lead: changes the process",
  member: "member: works",
  observer: "observer: reads",
};
const ROLES = Object.entries(ROLE_WORDS).map(([role, label]) => ({ value: role as Role, label }));

/**
 * The people of a project with their roles; a lead changes a role, adds somebody or takes somebody
 * out.
 */
export function MemberTable({ projectKey }: { projectKey: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data: view } = useQuery({
    ...queryOf(peopleContract.members, { params }),
  });
  const [added, setAdded] = useState("");
  const give = async (personId: string, role: Role | null) => {
    try {
      client.setQueryData(
        keyOf(peopleContract.members, { params }),
        await ask(peopleContract.setMember, { params, body: { personId, role } }),
      );
      setAdded("");
    } catch (error) {
      tellProblem(error);
    }
  };
  if (!view) return <p className="text-ink-soft">Reading who works here…</p>;
  return (
    <div className="max-w-[1100px]">
      <Table
        label="People of this project"
        className="w-full"
        rows={view.members}
        keyOf={(member) => member.id}
        dataOf={(member) => ({ "data-person": member.name })}
        columns={[
          { head: "Name", cell: (member) => <b>{member.name}</b> },
          { head: "Calling", className: "text-ink-soft", cell: (member) => member.calling },
          {
            head: "Role",
            cell: (member) =>
              view.mayEdit ? (
                <Select
                  className="!w-auto"
                  label={`Role of ${member.name}`}
                  value={member.role}
                  options={ROLES}
                  onChange={(role) => void give(member.id, role)}
                />
              ) : (
                ROLE_WORDS[member.role]
              ),
          },
          {
            head: <span className="sr-only">Leaving</span>,
            className: "!text-right",
            cell: (member) =>
              view.mayEdit && (
                <Button
                  look="quiet"
                  small
                  aria-label={`Take ${member.name} out`}
                  onClick={() => void give(member.id, null)}
                >
                  Take out
                </Button>
              ),
          },
        ]}
      />
      {view.mayEdit && view.others.length > 0 && (
        <div className="mt-2 flex items-center gap-2">
          <Select
            label="Person to add"
            value={added}
            options={[
              { value: "", label: "Choose somebody to add" },
              ...view.others.map((p) => ({ value: p.id, label: `${p.name} (${p.email})` })),
            ]}
            onChange={setAdded}
          />
          <Button disabled={!added} onClick={() => void give(added, "member")}>
            Add as member
          </Button>
        </div>
      )}
      {view.mayEdit && view.others.length === 0 && (
        <p className="mt-2 text-[12.5px] text-ink-soft">
          Everybody with an account is here. Administrators make accounts for new people, under
          their name at the top right.
        </p>
      )}
    </div>
  );
}
