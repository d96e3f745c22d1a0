import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { LONGEST_TERM } from "@/core/item/terms/term";
import { readPart } from "@/server/item/terms/part";
import { readTerms } from "@/server/item/terms/read";
import { PartsScreen } from "@/ui/plan/parts-screen";

export const metadata: Metadata = { title: "Parts of the product" };

export default async function PartsPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const [{ key }, { part }] = await Promise.all([params, searchParams]);
  const { terms } = await forPage(readTerms(viewer, key));
  const parts = terms.filter(({ kind }) => kind === "part");
  const named = typeof part === "string" ? part.slice(0, LONGEST_TERM) : undefined;
  const first = named ?? parts.find(({ endedAt }) => endedAt === null)?.name ?? parts[0]?.name;
  const known = parts.some(({ name }) => name === first);
  const initial = first !== undefined && known ? await forPage(readPart(viewer, key, first)) : null;
  return <PartsScreen key={first} projectKey={key} wanted={first ?? null} initial={initial} />;
}
