import type { Metadata } from "next";
import { linkPage } from "@/app/link-page";
import { readWelcome } from "@/server/people/accounts";
import { WelcomeForm } from "@/ui/people/welcome-form";

export const metadata: Metadata = { title: "Choose your password", referrer: "no-referrer" };
export const dynamic = "force-dynamic";

/** What a link leads to that an administrator handed over, or that was asked for by mail. */
export default async function WelcomePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return linkPage(readWelcome(token), ({ name, email }) => (
    <WelcomeForm token={token} name={name} email={email} />
  ));
}
