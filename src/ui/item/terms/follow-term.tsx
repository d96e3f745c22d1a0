"use client";
import { useQueryClient } from "@tanstack/react-query";
import { alertsContract } from "@/core/alerts/contract";
import { itemContract } from "@/core/item/contract";
import type { UsedTerm } from "@/core/item/terms/view";
import { Button } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { ask, keyOf } from "@/ui/kit/request";
import { useTerms } from "./use-terms";

/** Follows a label or a part: whatever happens to an item that says it is told, until one stops. */
export function FollowTerm({ projectKey, term }: { projectKey: string; term: UsedTerm }) {
  const client = useQueryClient();
  const { project, rights } = useTerms(projectKey);
  const { kind, name, followed, followers } = term;
  if (!rights.follow) return <span />;
  const turn = async () => {
    try {
      const target = `${project.id}/${name}`;
      await ask(alertsContract.follow, { body: { kind, target, on: !followed } });
    } catch (error) {
      tellProblem(error);
    }
    await client.invalidateQueries({
      queryKey: keyOf(itemContract.terms, { params: { key: projectKey } }),
    });
  };
  return (
    <Button
      small
      look="quiet"
      aria-pressed={followed}
      title={followers === 0 ? "Nobody follows it" : `${followers} follow it`}
      onClick={() => void turn()}
    >
      {followed ? "Following" : "Follow"} <span className="sr-only">{name}</span>
    </Button>
  );
}
