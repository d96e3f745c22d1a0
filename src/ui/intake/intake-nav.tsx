import { PlacesNav } from "@/ui/frame/places-nav";

const PLACES = [
  { path: "", title: "Triage desk" },
  { path: "/worth", title: "Worth and urgency" },
  { path: "/promises", title: "Promises" },
  { path: "/forms", title: "Forms" },
  { path: "/mailbox", title: "Mailbox" },
  { path: "/rules", title: "Triage rules" },
];

/** The places of Intake. */
export const IntakeNav = ({ projectKey }: { projectKey: string }) => (
  <PlacesNav label="Intake" base={`/p/${projectKey}/intake`} places={PLACES} />
);
