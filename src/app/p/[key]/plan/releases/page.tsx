import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readRelease, readReleases } from "@/server/plan/releases";
import { ReleasesScreen } from "@/ui/plan/releases-screen";

export const metadata: Metadata = { title: "Releases" };

export default async function ReleasesPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<{ release?: string | string[] }>;
}) {
  const viewer = await pageViewer();
  const [{ key }, { release }] = await Promise.all([params, searchParams]);
  const view = await forPage(readReleases(viewer, key));
  const named = view.releases.find(({ id }) => id === release) ?? view.releases.at(0);
  const first = named ? await forPage(readRelease(viewer, key, named.id)) : null;
  return <ReleasesScreen initial={view} first={first} />;
}
