import { lstatSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { handOver } from "./script";

/*
 * A script leaves what its tests came to as JUnit-style XML in the folder that RESULTS names: the pipeline
 * reads what is there when it has ended.
 */

const LARGEST = 800 * 1024;
const MOST_FILES = 20;

/** A file of results that was found. */
export interface FoundResults {
  name: string;
  xml: string;
}

/** Where a run's scripts put their results. */
export const resultsFolder = (folder: string): string => `${folder}.results`;

/** Makes it: beside the clone, where nothing of the repository can be. */
export function makeResultsFolder(folder: string): void {
  mkdirSync(resultsFolder(folder), { recursive: true });
  handOver(resultsFolder(folder));
}

/** Reads the results of a run; what is too large is left, and said in its log. */
export function takeResults(folder: string, log: string): FoundResults[] {
  const where = resultsFolder(folder);
  const files = readdirSync(where)
    .filter((name) => name.endsWith(".xml"))
    .toSorted();
  const say = (words: string) => writeFileSync(log, `${words}\n`, { flag: "a" });
  if (files.length > MOST_FILES) say(`Of ${files.length} files of results ${MOST_FILES} are read.`);
  return files.slice(0, MOST_FILES).flatMap((name) => {
    const file = path.join(where, name);
    // A script can put a link there to what it may not read itself.
    const found = lstatSync(file);
    if (found.isFile() && found.size <= LARGEST) return [{ name, xml: readFileSync(file, "utf8") }];
    say(`${name} is no file of at most ${LARGEST / 1024} KB: its results are left out.`);
    return [];
  });
}
