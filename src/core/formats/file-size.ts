const KB = 1024;
const MB = KB * KB;

/**
 * A size as people say it, in the units that limits are told in.
 * @param bytes not negative
 * @example fileSize(2_411_725) // "2.3 MB"
 */
export function fileSize(bytes: number): string {
  if (bytes < MB) return `${Math.max(1, Math.round(bytes / KB))} kB`;
  const megabytes = bytes / MB;
  return `${megabytes < 10 ? megabytes.toFixed(1) : Math.round(megabytes)} MB`;
}
