import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readAccounts } from "@/server/people/accounts";
import { readPictures } from "@/server/people/pictures";
import { AccountsScreen } from "@/ui/people/accounts-screen";
import { KnownPictures } from "@/ui/people/known-pictures";

export const metadata: Metadata = { title: "Accounts" };
export const dynamic = "force-dynamic";

export default async function PeoplePage() {
  const viewer = await pageViewer();
  const accounts = await forPage(readAccounts(viewer));
  return (
    <KnownPictures first={await readPictures(viewer)}>
      <AccountsScreen initial={accounts} />
    </KnownPictures>
  );
}
