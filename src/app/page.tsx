import { redirect } from "next/navigation";
import { database } from "@/db/connection";
import { visibleProjects } from "@/server/people/access";
import { pageViewer } from "./page-access";

/**
 * The front door: to the day of whoever comes, beside the first project that they can see, or to
 * starting one.
 */
export default async function Home() {
  const viewer = await pageViewer();
  const projects = await visibleProjects(database(), viewer);
  const first = projects.find((p) => p.key === "TIX") ?? projects[0];
  redirect(first ? `/p/${first.key}/today` : "/start");
}
