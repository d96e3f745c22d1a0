import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readReleasePage } from "@/server/ship/release/read-release";
import { ReleaseScreen } from "@/ui/ship/release/release-screen";

export const metadata: Metadata = { title: "Releases" };

export default async function ReleasesPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const { release } = await searchParams;
  const wanted = typeof release === "string" ? release.slice(0, 64) : undefined;
  return <ReleaseScreen initial={await forPage(readReleasePage(viewer, key, wanted))} />;
}
