import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { onlyAdministrators } from "@/server/people/accounts";
import { PartsScreen } from "@/ui/kit/parts-screen";

export const metadata: Metadata = { title: "Parts of the screens" };
export const dynamic = "force-dynamic";

export default async function PartsPage() {
  const viewer = await pageViewer();
  await forPage((async () => onlyAdministrators(viewer))());
  return <PartsScreen />;
}
