import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { tableAsked } from "@/core/item/list/table";
import type { Search } from "@/core/view/address";
import { isFiltering } from "@/core/view/filter";
import { shownBy, type Look } from "@/core/view/look";
import { readBoard } from "@/server/board/read";
import { readSummary } from "@/server/flow/summary";
import { readMatching } from "@/server/item/list/matching";
import { readTable } from "@/server/item/list/table";
import type { Viewer } from "@/server/people/viewer";
import { readAskedLook } from "@/server/view/asked-look";
import { FlowScreen, type Arranged } from "@/ui/view/flow-screen";

export const metadata: Metadata = { title: "Flow" };

/** What an arrangement draws first. */
async function arrange(viewer: Viewer, key: string, look: Look): Promise<Arranged> {
  if (look.arrangement === "table")
    return { kind: "table", table: await readTable(viewer, key, tableAsked(look)) };
  const condition = shownBy(look);
  const narrows = isFiltering(condition);
  const [board, matching] = await Promise.all([
    // What is filtered is told apart card by card.
    readBoard(viewer, key, look.board, { finished: narrows ? "all" : "latest", sum: look.sum }),
    narrows ? readMatching(viewer, key, { board: look.board, condition }) : null,
  ]);
  return { kind: "board", board, matching };
}

export default async function FlowPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const told = Object.entries(await searchParams);
  // What stands in an address twice says nothing.
  const search: Search = Object.fromEntries(
    told.flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : [])),
  );
  const [asked, summary] = await forPage(
    Promise.all([readAskedLook(viewer, key, search), readSummary(viewer, key)]),
  );
  const arranged = await forPage(arrange(viewer, key, asked.look));
  // What is open beside it is no other look.
  const { item: _, ...looked } = search;
  return (
    <FlowScreen
      key={JSON.stringify(looked)}
      projectKey={key}
      asked={asked}
      arranged={arranged}
      summary={summary}
    />
  );
}
