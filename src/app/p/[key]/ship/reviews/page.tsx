import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { readReviewQueue } from "@/server/ship/review-queue";
import { ReviewsScreen } from "@/ui/ship/reviews-screen";

export const metadata: Metadata = { title: "Reviews" };

export default async function ReviewsPage({ params }: { params: Promise<{ key: string }> }) {
  const viewer = await pageViewer();
  const { key } = await params;
  return <ReviewsScreen initial={await forPage(readReviewQueue(viewer, key))} />;
}
