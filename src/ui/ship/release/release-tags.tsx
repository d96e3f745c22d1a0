"use client";
import { useState } from "react";
import { shortHash } from "@/core/ship/short-hash";
import { tagFor } from "@/core/ship/release/tag";
import { TextButton } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import type { ReleasePageHandle } from "./use-release-page";

/** The tags of a release that is out, and what became of asking for them. */
export function ReleaseTags({ handle }: { handle: ReleasePageHandle }) {
  const { view, tag } = handle;
  const { release, tags, taggable, rights } = view;
  const [problem, setProblem] = useState<string | null>(null);
  if (release?.releasedAt == null) return null;
  const missing = taggable.filter(
    ({ repositoryId }) => !tags.some((one) => one.repositoryId === repositoryId && !one.refused),
  );
  if (tags.length === 0 && (missing.length === 0 || !rights.plan)) return null;
  const name = tags[0]?.name ?? tagFor(release.name);
  return (
    <div className="mb-3 text-[13px]">
      <ul className="flex flex-wrap gap-x-4">
        {tags.map(({ repositoryId, repository, name: called, commit, refused, tagAt }) => (
          <li key={repositoryId}>
            {refused !== null ? (
              <span className="text-alarm">
                {repository} did not take the tag: {refused}
              </span>
            ) : (
              <>
                {tagAt === null ? "asked to tag" : "tagged"} <code className="key">{called}</code>{" "}
                in {repository} at <code className="key">{shortHash(commit)}</code>
              </>
            )}
          </li>
        ))}
        {rights.plan && missing.length > 0 && name !== "" && (
          <li>
            <TextButton
              onClick={() =>
                void tag(
                  name,
                  missing.map(({ repositoryId }) => repositoryId),
                ).then(setProblem)
              }
            >
              Tag it in {missing.map(({ repository }) => repository).join(", ")} as {name}
            </TextButton>
          </li>
        )}
      </ul>
      <FormProblem>{problem}</FormProblem>
    </div>
  );
}
