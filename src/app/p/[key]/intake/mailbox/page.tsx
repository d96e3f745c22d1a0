import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readMailbox } from "@/server/mail/addresses";
import { MailboxScreen } from "@/ui/intake/mailbox-screen";

export const metadata: Metadata = { title: "Mailbox" };

export default async function MailboxPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  return <MailboxScreen initial={await forPage(readMailbox(viewer, (await params).key))} />;
}
