"use client";
import { useQuery } from "@tanstack/react-query";
import { readAcrossKey } from "@/core/across/place";
import { flowContract } from "@/core/flow/contract";
import type { Figures } from "@/core/flow/summary";
import { queryOf } from "@/ui/kit/request";

/**
 * What boards and tables are drawn with, as it stands. In a project it is part of what its frame
 * shows; above the projects it is as it came with the page.
 */
export function useFigures(key: string, initial: Figures): Figures {
  const above = readAcrossKey(key) !== null;
  const asked = queryOf(flowContract.summary, { params: { key } });
  const { data } = useQuery({ ...asked, enabled: !above });
  return above ? initial : (data ?? initial);
}
