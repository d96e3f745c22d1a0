import { cookies, headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import { Refused } from "@/server/refused";
import { viewerOf, type Viewer } from "@/server/people/viewer";
import { THEME_COOKIE, themeOf, type Theme } from "@/ui/kit/theme";
import { ASKED_PAGE, signInFor } from "./asked-page";

/**
 * The signed-in person of this page request; otherwise the sign-in page, and back here afterwards.
 */
export const pageViewer = cache(async (): Promise<Viewer> => {
  const asked = await headers();
  const viewer = await viewerOf(asked);
  if (!viewer) redirect(signInFor(asked.get(ASKED_PAGE)));
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

export const pageTheme = async (): Promise<Theme> =>
  themeOf((await cookies()).get(THEME_COOKIE)?.value);
