import type { ReactNode } from "react";
import { forPage, pageTheme, pageViewer } from "@/app/page-access";
import { database } from "@/db/connection";
import { enterGround } from "@/server/across/ground";
import { readPlaces } from "@/server/across/places";
import { freshCount } from "@/server/alerts/read";
import { newestEventId } from "@/server/events/newest";
import { readPins } from "@/server/item/pins";
import { mayOutside } from "@/server/people/access";
import { readPictures } from "@/server/people/pictures";
import { projectTypes } from "@/server/workflow/load";
import { AcrossFrame } from "@/ui/across/across-frame";

export const dynamic = "force-dynamic";

export default async function AcrossLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ place: string }>;
}) {
  const viewer = await pageViewer();
  const { place } = await params;
  const reader = database();
  const { projects } = await forPage(enterGround(reader, viewer, place, "read project"));
  const ids = projects.map(({ project }) => project.id);
  const lastEventId = await newestEventId(reader, ...ids);
  const [across, mayStart, freshAlerts, pins, pictures, types] = await Promise.all([
    readPlaces(viewer),
    mayOutside(reader, viewer, "start project"),
    freshCount(viewer),
    readPins(viewer),
    readPictures(viewer),
    Promise.all(ids.map((id) => projectTypes(reader, id))),
  ]);
  const known = new Map(types.flatMap((of) => of.types).map((type) => [type.id, type]));
  return (
    <AcrossFrame
      placeKey={place}
      across={across}
      mayStartProjects={mayStart}
      person={{ name: viewer.name, administrator: viewer.administrator }}
      theme={await pageTheme()}
      freshAlerts={freshAlerts}
      types={[...known.values()].map(({ id, name, glyph, level }) => ({ id, name, glyph, level }))}
      lastEventId={lastEventId}
      pins={pins}
      pictures={pictures}
    >
      {children}
    </AcrossFrame>
  );
}
