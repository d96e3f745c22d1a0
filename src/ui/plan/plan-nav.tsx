import { PlacesNav, type Place } from "@/ui/frame/places-nav";

/** Places that there are only where a project plans in sprints, or for whom may do something. */
type Needs = "sprints" | "withdrawn";

const PLACES: readonly (Place & { needs?: Needs })[] = [
  { path: "", title: "Backlog" },
  { path: "/planning", title: "Next sprints", needs: "sprints" },
  { path: "/sprints", title: "Sprint reports", needs: "sprints" },
  { path: "/releases", title: "Releases" },
  { path: "/sizing", title: "Sizing" },
  { path: "/calendar", title: "Calendar" },
  { path: "/pieces", title: "Large pieces" },
  { path: "/waiting", title: "What waits for what" },
  { path: "/room", title: "People’s room" },
  { path: "/time", title: "Time" },
  { path: "/parts", title: "Parts" },
  { path: "/import", title: "In and out" },
  { path: "/withdrawn", title: "Withdrawn", needs: "withdrawn" },
];

/** The places of Plan. */
export const PlanNav = ({
  projectKey,
  has,
}: {
  projectKey: string;
  has: Record<Needs, boolean>;
}) => (
  <PlacesNav
    label="Plan"
    base={`/p/${projectKey}/plan`}
    places={PLACES.filter(({ needs }) => needs === undefined || has[needs])}
  />
);
