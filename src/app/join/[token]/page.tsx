import type { Metadata } from "next";
import { headers } from "next/headers";
import { linkPage } from "@/app/link-page";
import { readJoin } from "@/server/people/join";
import { viewerOf } from "@/server/people/viewer";
import { JoinForm } from "@/ui/people/join-form";

export const metadata: Metadata = { title: "You are invited", referrer: "no-referrer" };
export const dynamic = "force-dynamic";

/** What an invitation to a project leads to. */
export default async function JoinPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const viewer = await viewerOf(await headers());
  return linkPage(readJoin(token, viewer), (view) => <JoinForm token={token} view={view} />);
}
