import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { readPrivatePage } from "@/server/intake/private-page";
import { PrivatePage } from "@/ui/intake/private-page";

export const metadata: Metadata = { title: "Your report", robots: { index: false, follow: false } };
export const dynamic = "force-dynamic";

export default async function RequesterPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return <PrivatePage token={token} initial={await forPage(readPrivatePage(token))} />;
}
