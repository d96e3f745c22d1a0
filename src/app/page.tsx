import { redirect } from "next/navigation";
import { database } from "@/db/connection";
import { visibleProjects } from "@/server/people/access";
import { pageViewer } from "./page-access";

/** The front door: to the board of the first project that the person can see. */
export default async function Home() {
  const viewer = await pageViewer();
  const projects = await visibleProjects(database(), viewer);
  const first = projects.find((p) => p.key === "TIX") ?? projects[0];
  if (first) redirect(`/p/${first.key}/flow`);
  return (
    <main className="mx-auto max-w-md px-6 py-24">
      <h1 className="mb-2 text-[22px]">No project yet</h1>
      <p>You are signed in, but no project is open to you. Ask a lead to add you to theirs.</p>
    </main>
  );
}
