import { addressOf } from "@/core/contract/contract";
import { itemContract } from "@/core/item/contract";
import type { ItemFileView } from "@/core/item/item-file";
import { outOfReach, problemTold } from "@/ui/kit/request";

/** A file on its way to an item. */
export interface Upload {
  /** Settles when it is there. @throws Problem, or nothing where it was stopped */
  done: Promise<ItemFileView | null>;
  stop: () => void;
}

/**
 * Sends a file to an item, and tells how far it has come.
 * @param onPart of 1, how much of it was sent
 */
export function uploadFile(
  itemKey: string,
  id: string,
  file: File,
  onPart: (part: number) => void,
): Upload {
  const request = new XMLHttpRequest();
  const done = new Promise<ItemFileView | null>((resolve, reject) => {
    request.upload.onprogress = ({ loaded, total }) => onPart(total > 0 ? loaded / total : 0);
    request.onabort = () => resolve(null);
    request.onerror = () => reject(outOfReach());
    request.onload = () => {
      const told = request.response as ItemFileView | null;
      if (request.status < 300) resolve(told);
      else reject(problemTold(request.status, (told ?? {}) as object));
    };
    request.responseType = "json";
    const asked = { params: { key: itemKey }, query: { id, name: file.name || "file" } };
    request.open("POST", addressOf(itemContract.putFile, asked));
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
  return { done, stop: () => request.abort() };
}
