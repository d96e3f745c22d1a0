import type { ReactNode } from "react";
import { database } from "@/db/connection";
import { ProjectFrame } from "@/ui/frame/project-frame";
import { freshCount } from "@/server/alerts/read";
import { newestEventId } from "@/server/events/newest";
import { readSummary } from "@/server/flow/summary";
import { readPins } from "@/server/item/pins";
import { readTerms } from "@/server/item/terms/read";
import { enterProject, mayOutside, projectsPutAway, visibleProjects } from "@/server/people/access";
import { readPictures } from "@/server/people/pictures";
import { projectTypes } from "@/server/workflow/load";
import { readTodayCount } from "@/server/today/read";
import { forPage, pageTheme, pageViewer } from "@/app/page-access";

export const dynamic = "force-dynamic";

export default async function ProjectLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ key: string }>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const access = await forPage(
    enterProject({ reader: database(), viewer, where: { key }, action: "read project" }),
  );
  // Read before the summary: what happens in between is told by the stream.
  const lastEventId = await newestEventId(database(), access.project.id);
  const [
    summary,
    projects,
    away,
    mayStart,
    { types },
    pins,
    freshAlerts,
    { waiting },
    terms,
    pictures,
  ] = await Promise.all([
    readSummary(viewer, key),
    visibleProjects(database(), viewer),
    projectsPutAway(database(), viewer),
    mayOutside(database(), viewer, "start project"),
    projectTypes(database(), access.project.id),
    readPins(viewer),
    freshCount(viewer),
    readTodayCount(viewer, key),
    readTerms(viewer, key),
    readPictures(viewer),
  ]);
  return (
    <ProjectFrame
      project={{ key: access.project.key, name: access.project.name }}
      projects={projects.map(({ key, name }) => ({ key, name }))}
      projectsPutAway={away}
      putAway={
        access.project.putAwayAt === null
          ? null
          : { at: access.project.putAwayAt, mayBringBack: access.may("put away project") }
      }
      mayStartProjects={mayStart}
      person={{ name: viewer.name, administrator: viewer.administrator }}
      theme={await pageTheme()}
      showsIntake={access.may("read intake")}
      summary={summary}
      freshAlerts={freshAlerts}
      waitingToday={waiting}
      types={types.map(({ id, name, glyph, level }) => ({ id, name, glyph, level }))}
      lastEventId={lastEventId}
      pins={pins}
      terms={terms}
      sizes={access.project.sizeScale}
      pictures={pictures}
    >
      {children}
    </ProjectFrame>
  );
}
