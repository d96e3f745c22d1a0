import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { database } from "@/db/connection";
import { visibleProjects } from "@/server/people/access";
import { StartProject } from "@/ui/workflow/start-project";

export const metadata: Metadata = { title: "Start a project" };
export const dynamic = "force-dynamic";

export default async function StartPage() {
  const viewer = await pageViewer();
  const projects = await visibleProjects(database(), viewer);
  return <StartProject name={viewer.name} taken={projects.map((p) => p.key)} />;
}
