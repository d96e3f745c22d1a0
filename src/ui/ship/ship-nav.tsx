import { PlacesNav, type Place } from "@/ui/frame/places-nav";

const PLACES: readonly Place[] = [
  { path: "", title: "Changes" },
  { path: "/reviews", title: "Reviews" },
  { path: "/tests", title: "Tests" },
  { path: "/environments", title: "Environments" },
  { path: "/acceptance", title: "Acceptance" },
  { path: "/releases", title: "Releases" },
];

/** The places of Ship. */
export const ShipNav = ({ projectKey }: { projectKey: string }) => (
  <PlacesNav label="Ship" base={`/p/${projectKey}/ship`} places={PLACES} />
);
