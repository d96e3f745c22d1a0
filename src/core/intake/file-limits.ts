/** What comes with a report from somebody without an account: so many files, each so large. */
export const MOST_FILES = 5;
/** In bytes. */
export const LARGEST_FILE = 5 * 1024 * 1024;
