/** The header in which our own server tells a page its address; what a client sends is overwritten. */
export const ASKED_PAGE = "x-asked-page";

/**
 * The address of a page of ours, or the start page for anything else: what stands in an address that
 * somebody was sent never leads them elsewhere.
 */
export function ownPage(to: string | null | undefined): string {
  if (!to || !/^\/(?![/\\])[\x21-\x7e]{0,500}$/.test(to)) return "/";
  const { origin, pathname, searchParams, hash } = new URL(to, "http://own");
  if (origin !== "http://own" || /^\/(api|_next|sign-in)(\/|$)/.test(pathname)) return "/";
  searchParams.delete("_rsc");
  const query = searchParams.size > 0 ? `?${searchParams}` : "";
  return `${pathname}${query}${hash}`;
}

/** The sign-in page that leads back to where somebody wanted to go. */
export function signInFor(asked: string | null): string {
  const to = ownPage(asked);
  return to === "/" ? "/sign-in" : `/sign-in?to=${encodeURIComponent(to)}`;
}
