import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readLearn } from "@/server/flow/read";
import { LearnScreen } from "@/ui/flow/learn-screen";
import { flowQuery } from "@/core/flow/request";

export const metadata: Metadata = { title: "Learn" };

export default async function LearnPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const query = flowQuery.safeParse(await searchParams);
  return (
    <LearnScreen
      initial={await forPage(
        readLearn(viewer, (await params).key, query.data ?? flowQuery.parse({})),
      )}
    />
  );
}
