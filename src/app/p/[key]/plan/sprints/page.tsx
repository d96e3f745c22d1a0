import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readSprint, sprintToShow } from "@/server/plan/sprint-view";
import { readHowItPlans } from "@/server/plan/settings";
import { ButtonLink } from "@/ui/kit/button";
import { WithoutSprints } from "@/ui/plan/plan-settings";
import { SprintScreen } from "@/ui/plan/sprint-screen";

export const metadata: Metadata = { title: "Sprint" };

export default async function SprintPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<{ sprint?: string | string[] }>;
}) {
  const viewer = await pageViewer();
  const [{ key }, { sprint }] = await Promise.all([params, searchParams]);
  const asked = typeof sprint === "string" ? sprint : null;
  const plans = await forPage(readHowItPlans(viewer, key));
  // The reports of those that it had are there all the same.
  if (asked === null && !plans.settings.usesSprints) return <WithoutSprints {...plans} />;
  const id = asked ?? (await forPage(sprintToShow(viewer, key)));
  if (id === null)
    return (
      <div className="flex flex-col items-center gap-3 py-16">
        <p className="text-ink-soft">No sprint yet. One is made beside the backlog, with a goal.</p>
        <ButtonLink href={`/p/${key}/plan`}>To the backlog</ButtonLink>
      </div>
    );
  const initial = await forPage(readSprint(viewer, key, id));
  return <SprintScreen key={id} initial={initial} />;
}
