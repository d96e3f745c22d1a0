import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readRoom } from "@/server/plan/people-room";
import { RoomScreen } from "@/ui/plan/room-screen";

export const metadata: Metadata = { title: "People’s room" };

export default async function RoomPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  const initial = await forPage(readRoom(viewer, key));
  return <RoomScreen initial={initial} />;
}
