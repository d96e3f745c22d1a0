/** Where a file stands on the page, and one of its pages. */
export const filePlace = (id: string, page: number | null = null): string =>
  page === null ? `file-${id}` : `file-${id}-${page}`;

/** The page of a file that a place of the page names; null where it names another file or none. */
export function pageNamed(id: string, place: string): number | null {
  if (place === filePlace(id)) return 1;
  const page = place.startsWith(`${filePlace(id)}-`) ? Number(place.split("-").at(-1)) : 0;
  return Number.isInteger(page) && page > 0 ? page : null;
}
