/** Larger than this no calendar of days off is; in bytes as in letters. */
export const LARGEST_CALENDAR = 1024 * 1024;
