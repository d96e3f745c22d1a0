import type { Metadata } from "next";
import { LookedAt, type SearchParams } from "@/app/looked-at";
import { readSummary } from "@/server/flow/summary";

export const metadata: Metadata = { title: "Flow" };

export default async function FlowPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: SearchParams;
}) {
  const { key } = await params;
  return (
    <LookedAt
      placeKey={key}
      searchParams={searchParams}
      figures={(viewer) => readSummary(viewer, key)}
    />
  );
}
