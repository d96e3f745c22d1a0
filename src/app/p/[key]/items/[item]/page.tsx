import type { Metadata } from "next";
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
  return <ItemPage initial={await forPage(readItem(viewer, (await params).item))} />;
}
