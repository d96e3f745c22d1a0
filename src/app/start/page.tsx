import type { Metadata } from "next";
import { pageViewer } from "@/app/page-access";
import { database } from "@/db/connection";
import { mayOutside, projectsPutAway, visibleProjects } from "@/server/people/access";
import { NoProject } from "@/ui/workflow/no-project";
import { StartProject } from "@/ui/workflow/start-project";

export const metadata: Metadata = { title: "Start a project" };
export const dynamic = "force-dynamic";

export default async function StartPage() {
  const viewer = await pageViewer();
  if (!(await mayOutside(database(), viewer, "start project")))
    return <NoProject name={viewer.name} />;
  const [projects, away] = await Promise.all([
    visibleProjects(database(), viewer),
    projectsPutAway(database(), viewer),
  ]);
  return <StartProject name={viewer.name} taken={[...projects, ...away].map((p) => p.key)} />;
}
