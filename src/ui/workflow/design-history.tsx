"use client";
import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import type { DesignChangeView } from "@/core/workflow/design-change";
import { workflowContract } from "@/core/workflow/contract";
import { Button } from "@/ui/kit/button";
import { ask, keyOf, problemOf } from "@/ui/kit/request";
import { Note } from "@/ui/kit/note";
import { exact } from "@/ui/kit/time";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";

/** What leads changed of how the project works, the latest first. */
export function DesignHistory({ projectKey, zone }: { projectKey: string; zone: string }) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const queryKey = keyOf(workflowContract.designHistory, { params });
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam }) =>
      ask(workflowContract.designHistory, { params, query: { before: pageParam ?? undefined } }),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });
  useReadAgain(ofDesign, () => client.invalidateQueries({ queryKey }));
  if (error) return <Note kind="problem">{problemOf(error).sentence}</Note>;
  if (!data) return <p className="text-ink-soft">Reading what was changed…</p>;
  const changes = data.pages.flatMap((page) => page.changes);
  if (changes.length === 0)
    return (
      <p className="py-6 text-ink-soft">
        Nothing was changed yet. Whatever leads change of types, fields, boards, limits, labels,
        parts, forms, people and the project itself stands here; workflows have versions of their
        own.
      </p>
    );
  return (
    <div className="flex max-w-[900px] flex-col gap-3">
      <ol className="flex flex-col">
        {changes.map((change) => (
          <Change key={change.id} change={change} zone={zone} />
        ))}
      </ol>
      {hasNextPage && (
        <Button disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Earlier changes
        </Button>
      )}
    </div>
  );
}

function Change({ change, zone }: { change: DesignChangeView; zone: string }) {
  const { at, by, said, area, differences } = change;
  return (
    <li className="grid grid-cols-[130px_1fr_auto] gap-x-3 border-t border-line py-1.5">
      <span className="figures text-[13px] text-ink-soft">{exact(at, zone)}</span>
      <span>
        <b>{by ?? "Somebody"}</b> {said}
        {differences.length > 0 && (
          <ul className="text-[13px] text-ink-soft">
            {differences.map(({ what, old, new: now }) => (
              <li key={what}>
                {what}: {old === null ? "" : <s>{old}</s>} {now ?? "nothing"}
              </li>
            ))}
          </ul>
        )}
      </span>
      <span className="text-[12.5px] text-ink-soft">{area}</span>
    </li>
  );
}
