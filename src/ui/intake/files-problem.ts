import { fileSize } from "@/core/formats/file-size";
import { LARGEST_FILE, MOST_FILES } from "@/core/intake/file-limits";

const LARGEST_MB = LARGEST_FILE / (1024 * 1024);

/** Why chosen files cannot go along, said before they are sent; null when they can. */
export function filesProblem(files: readonly File[]): string | null {
  const large = files.find((f) => f.size > LARGEST_FILE);
  if (large)
    return `${large.name} has ${fileSize(large.size)}, and ${LARGEST_MB} MB are the most. Take it out or choose a smaller one; your text stays.`;
  return files.length > MOST_FILES
    ? `These are ${files.length} files, and ${MOST_FILES} are the most. Take some out; your text stays.`
    : null;
}
