"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { shipContract } from "@/core/ship/contract";
import { lastOf, type DeliveriesView, type WhatIsWhere } from "@/core/ship/what-is-where-view";
import { keyOf, queryOf } from "@/ui/kit/request";

/** What went live lately: read again when something else is live, not with all that happens. */
export function useDeliveries(
  initial: { deliveries: DeliveriesView | null },
  { project, environments }: WhatIsWhere,
): { deliveries: DeliveriesView | null } {
  const client = useQueryClient();
  const params = { key: project.key };
  const { data } = useQuery({
    ...queryOf(shipContract.deliveries, { params }),
    initialData: initial,
  });
  const live = lastOf(environments);
  const there = [live?.id, ...(live?.now ?? []).map(({ id }) => id)].join(" ");
  const before = useRef(there);
  useEffect(() => {
    if (before.current === there) return;
    before.current = there;
    const queryKey = keyOf(shipContract.deliveries, { params: { key: project.key } });
    void client.invalidateQueries({ queryKey });
  }, [there, client, project.key]);
  return data;
}
