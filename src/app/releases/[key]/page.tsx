import type { Metadata } from "next";
import { forPage } from "@/app/page-access";
import { readPublicReleases } from "@/server/ship/release/public-releases";
import { Sheet } from "@/ui/intake/public-sheet";
import { PublicReleaseList } from "@/ui/ship/release/public-list";

export const metadata: Metadata = { title: "What went out" };
export const dynamic = "force-dynamic";

/** What went out of a project, for anyone. */
export default async function PublicReleasesPage({ params }: { params: Promise<{ key: string }> }) {
  const view = await forPage(readPublicReleases((await params).key.toUpperCase()));
  return (
    <Sheet projectName={view.name}>
      <PublicReleaseList view={view} />
    </Sheet>
  );
}
