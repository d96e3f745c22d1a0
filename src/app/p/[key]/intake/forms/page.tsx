import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readForms } from "@/server/intake/forms";
import { FormsScreen } from "@/ui/intake/forms-screen";

export const metadata: Metadata = { title: "Forms" };

export default async function FormsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <FormsScreen initial={await forPage(readForms(viewer, (await params).key))} />;
}
