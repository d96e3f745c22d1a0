import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { readPictures } from "@/server/people/pictures";
import { AccountForm } from "@/ui/people/account-form";
import { KnownPictures } from "@/ui/people/known-pictures";

export const metadata: Metadata = { title: "Your account" };
export const dynamic = "force-dynamic";

export default async function AccountPage() {
  const viewer = await pageViewer();
  return (
    <KnownPictures first={await readPictures(viewer)}>
      <AccountForm name={viewer.name} />
    </KnownPictures>
  );
}
