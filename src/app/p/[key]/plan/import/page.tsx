import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readTableGround } from "@/server/item/csv/ground";
import { readMayBring } from "@/server/item/csv/may-bring";
import { ImportItemsScreen } from "@/ui/item/csv/import-items-screen";

export const metadata: Metadata = { title: "Items in and out" };

export default async function ImportItemsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const [ground, mayBring] = await forPage(
    Promise.all([readTableGround(viewer, key), readMayBring(viewer, key)]),
  );
  return <ImportItemsScreen projectKey={key} ground={ground} mayBring={mayBring} />;
}
