import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { stoppedByToken } from "@/server/alerts/stop-mail";
import { StopMail } from "@/ui/alerts/stop-mail";

export const metadata: Metadata = { title: "No more mail about this" };
export const dynamic = "force-dynamic";

export default async function StopMailPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return <StopMail token={token} stopped={await forPage(stoppedByToken(token))} />;
}
