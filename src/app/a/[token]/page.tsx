import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { readPublicShowing } from "@/server/ship/acceptance/private-showing";
import { PublicShowingPage } from "@/ui/ship/acceptance/public-showing";

export const metadata: Metadata = {
  title: "Please have a look",
  robots: { index: false, follow: false },
};
export const dynamic = "force-dynamic";

/** What is shown to somebody without an account, so that they accept it. */
export default async function ShownPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return <PublicShowingPage token={token} initial={await forPage(readPublicShowing(token))} />;
}
