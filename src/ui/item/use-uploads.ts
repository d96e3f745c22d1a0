"use client";
import { useEffect, useRef, useState } from "react";
import { v7 as newId } from "uuid";
import { LARGEST_ITEM_FILE, type ItemFileView } from "@/core/item/item-file";
import { fileSize } from "@/core/formats/file-size";
import { tellProblem } from "@/ui/kit/notice";
import { uploadFile, type Upload } from "./upload-file";

/** So many files are sent at the same time. */
const AT_ONCE = 3;

/** A file that is sent, or waits to be. */
export interface OnItsWay {
  id: string;
  name: string;
  /** Of 1. */
  part: number;
  stop: () => void;
}

interface Waiting {
  id: string;
  file: File;
}

/**
 * Sends files to an item, a few at a time; each can be stopped.
 * @param onThere when one is there
 */
export function useUploads(itemKey: string, onThere: (file: ItemFileView) => unknown) {
  const [onTheWay, setOnTheWay] = useState<OnItsWay[]>([]);
  const waiting = useRef<Waiting[]>([]);
  const running = useRef(new Map<string, Upload>());
  useEffect(() => {
    const now = running.current;
    return () => now.forEach((upload) => upload.stop());
  }, []);
  const gone = (id: string) => setOnTheWay((all) => all.filter((one) => one.id !== id));
  const stop = (id: string) => {
    waiting.current = waiting.current.filter((one) => one.id !== id);
    running.current.get(id)?.stop();
    gone(id);
  };
  const next = () => {
    while (running.current.size < AT_ONCE) {
      const one = waiting.current.shift();
      if (!one) return;
      const upload = uploadFile(itemKey, one.id, one.file, (part) =>
        setOnTheWay((all) => all.map((each) => (each.id === one.id ? { ...each, part } : each))),
      );
      running.current.set(one.id, upload);
      void upload.done
        .then((file) => file && onThere(file), tellProblem)
        .finally(() => {
          running.current.delete(one.id);
          gone(one.id);
          next();
        });
    }
  };
  const send = (files: readonly File[]) => {
    const small = files.filter((file) => file.size <= LARGEST_ITEM_FILE);
    for (const file of files)
      if (!small.includes(file))
        tellProblem(
          new Error(
            `${file.name} has ${fileSize(file.size)}; at most ${fileSize(LARGEST_ITEM_FILE)} are taken.`,
          ),
        );
    const begun = small.map((file) => ({ id: newId(), file }));
    waiting.current.push(...begun);
    setOnTheWay((all) => [
      ...all,
      ...begun.map(({ id, file }) => ({ id, name: file.name, part: 0, stop: () => stop(id) })),
    ]);
    next();
  };
  return { onTheWay, send };
}
