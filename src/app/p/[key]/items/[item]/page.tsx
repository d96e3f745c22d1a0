import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { forPage, pageViewer } from "@/app/page-access";
import { readItem } from "@/server/item/read";
import { ItemPage } from "@/ui/item/item-page";

export async function generateMetadata({
  params,
}: {
  params: Promise<{ item: string }>;
}): Promise<Metadata> {
  return { title: (await params).item };
}

export default async function FullItemPage({
  params,
}: {
  params: Promise<{ key: string; item: string }>;
}) {
  const viewer = await pageViewer();
  const asked = await params;
  const view = await forPage(readItem(viewer, asked.item));
  // By a key that it had before, or in the project that it was in, it is found where it is now.
  if (view.key !== asked.item.toUpperCase() || view.project.key !== asked.key)
    redirect(`/p/${view.project.key}/items/${view.key}`);
  return <ItemPage key={view.key} initial={view} />;
}
