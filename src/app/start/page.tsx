import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { database } from "@/db/connection";
import { mayOutside, visibleProjects } from "@/server/people/access";
import { NoProject } from "@/ui/workflow/no-project";
import { StartProject } from "@/ui/workflow/start-project";

export const metadata: Metadata = { title: "Start a project" };
export const dynamic = "force-dynamic";

export default async function StartPage() {
  const viewer = await pageViewer();
  if (!(await mayOutside(database(), viewer, "start project")))
    return <NoProject name={viewer.name} />;
  const projects = await visibleProjects(database(), viewer);
  return <StartProject name={viewer.name} taken={projects.map((p) => p.key)} />;
}
