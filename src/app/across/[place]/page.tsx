import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { LookedAt, type SearchParams } from "@/app/looked-at";
import { readAcrossKey } from "@/core/across/place";
import { readFigures } from "@/server/across/figures";

export const metadata: Metadata = { title: "Across" };

export default async function AcrossPage({
  params,
  searchParams,
}: {
  params: Promise<{ place: string }>;
  searchParams: SearchParams;
}) {
  const { place } = await params;
  if (readAcrossKey(place) === null) notFound();
  return (
    <LookedAt
      placeKey={place}
      searchParams={searchParams}
      figures={(viewer) => readFigures(viewer, place)}
    />
  );
}
