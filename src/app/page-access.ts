import { cookies, headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import { Refused } from "@/server/refused";
import { viewerOf, type Viewer } from "@/server/people/viewer";

/**
 * The signed-in person of this page request; otherwise the sign-in page, and back here afterwards.
 */
export const pageViewer = cache(async (): Promise<Viewer> => {
  const viewer = await viewerOf(await headers());
  if (!viewer) redirect("/sign-in");
  return viewer;
});

/** Runs a read for a page; what the person may not see is a page that does not exist. */
export async function forPage<T>(read: Promise<T>): Promise<T> {
  try {
    return await read;
  } catch (error) {
    if (
      error instanceof Refused &&
      (error.refusal.code === "not found" || error.refusal.code === "not allowed")
    )
      notFound();
    throw error;
  }
}

export async function pageTheme(): Promise<"light" | "dark"> {
  return (await cookies()).get("theme")?.value === "dark" ? "dark" : "light";
}
