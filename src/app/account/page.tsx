import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { PasswordForm } from "@/ui/people/password-form";

export const metadata: Metadata = { title: "Your password" };
export const dynamic = "force-dynamic";

export default async function AccountPage() {
  const { name } = await pageViewer();
  return <PasswordForm name={name} />;
}
