import { redirect } from "next/navigation";

export default async function ProjectPage({ params }: { params: Promise<{ key: string }> }) {
  redirect(`/p/${(await params).key}/flow`);
}
