"use client";
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
    <div>
      <table className="w-full text-[13.5px]" aria-label="People of this project">
        <tbody>
          {view.members.map((m) => (
            <tr key={m.id} className="border-t border-line" data-person={m.name}>
              <td className="py-1 font-semibold">{m.name}</td>
              <td className="text-ink-soft">{m.calling}</td>
              <td>
                {view.mayEdit ? (
                  <select
                    className="field !w-auto"
                    aria-label={`Role of ${m.name}`}
                    value={m.role}
                    onChange={(e) => void give(m.id, e.target.value as Role)}
                  >
                    {Object.entries(ROLE_WORDS).map(([role, words]) => (
                      <option key={role} value={role}>
                        {words}
                      </option>
                    ))}
                  </select>
                ) : (
                  ROLE_WORDS[m.role]
                )}
              </td>
              <td className="text-right">
                {view.mayEdit && (
                  <button
                    type="button"
                    className="button button-small button-quiet"
                    aria-label={`Take ${m.name} out`}
                    onClick={() => void give(m.id, null)}
                  >
                    Take out
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {view.mayEdit && view.others.length > 0 && (
        <div className="mt-2 flex items-center gap-2">
          <select
            className="field"
            aria-label="Person to add"
            value={added}
            onChange={(e) => setAdded(e.target.value)}
          >
            <option value="">Choose somebody to add</option>
            {view.others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name} ({p.email})
              </option>
            ))}
          </select>
          <button
            type="button"
            className="button"
            disabled={!added}
            onClick={() => void give(added, "member")}
          >
            Add as member
          </button>
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
