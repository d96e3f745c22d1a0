import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { database } from "@/db/connection";
import { enterProject } from "@/server/people/access";
import { ImportScreen } from "@/ui/intake/import-screen";

export const metadata: Metadata = { title: "Import a table" };

export default async function ImportPage({ params }: { params: Promise<{ key: string }> }) {
  const { project } = await forPage(
    enterProject({
      reader: database(),
      viewer: await pageViewer(),
      where: { key: (await params).key },
      action: "judge report",
    }),
  );
  return <ImportScreen projectKey={project.key} />;
}
