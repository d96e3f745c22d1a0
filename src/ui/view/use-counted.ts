"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { listContract } from "@/core/item/list/contract";
import { asTheyStood, type CountedView } from "@/core/item/list/counted-values";
import { countedAsked } from "@/core/view/counted-look";
import { readAnew } from "@/ui/kit/read-anew";
import { keyOf, queryOf } from "@/ui/kit/request";
import type { LiveMessage } from "@/ui/kit/use-live";
import { useReadAgain } from "@/ui/kit/use-read-again";
import type { LookHandle } from "./use-look";

const ofItems = ({ kind }: LiveMessage) =>
  kind === "item" || kind === "design" || kind === "resync";

/**
 * The values of the fields that a look counts, over what it shows; each field as if the filter did
 * not narrow it.
 * @param held whether something there is being pointed at: then nothing changes its place
 */
export function useCounted({ projectKey, look, views, asked }: LookHandle, held: boolean) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const body = countedAsked(look, views.named);
  const first = JSON.stringify(body) === JSON.stringify(countedAsked(asked.look, views.named));
  const { data, error } = useQuery({
    ...queryOf(listContract.counted, { params, body }),
    initialData: first ? (asked.counted ?? undefined) : undefined,
    placeholderData: (before: CountedView | undefined) => before,
  });
  useReadAgain(ofItems, () =>
    readAnew(client, { queryKey: keyOf(listContract.counted, { params }) }),
  );
  return { counted: useStanding(data, held), error };
}

/** Counted values that stay where they are while something among them is pointed at. */
export function useStanding(data: CountedView | undefined, held: boolean) {
  const [stood, setStood] = useState(data);
  if (!held && stood !== data) setStood(data);
  const fields = data?.fields.map((field) =>
    asTheyStood(
      stood?.fields.find((before) => before.fact === field.fact),
      field,
    ),
  );
  return data && fields ? { ...data, fields } : undefined;
}
