import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { readWelcome } from "@/server/people/accounts";
import { WelcomeForm } from "@/ui/people/welcome-form";

export const metadata: Metadata = { title: "Choose your password", referrer: "no-referrer" };
export const dynamic = "force-dynamic";

/** What a link leads to that an administrator handed over. */
export default async function WelcomePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { name, email } = await forPage(readWelcome(token));
  return <WelcomeForm token={token} name={name} email={email} />;
}
