import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readAccounts } from "@/server/people/accounts";
import { AccountsScreen } from "@/ui/people/accounts-screen";

export const metadata: Metadata = { title: "Accounts" };
export const dynamic = "force-dynamic";

export default async function PeoplePage() {
  const viewer = await pageViewer();
  return <AccountsScreen initial={await forPage(readAccounts(viewer))} />;
}
