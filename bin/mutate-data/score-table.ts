import { existsSync, readFileSync, writeFileSync } from "node:fs";

export type MutantStatus =
  "Killed" | "Timeout" | "Survived" | "NoCoverage" | "Ignored" | "CompileError" | "RuntimeError";

/** What at least must be noticed, in per cent, where a mistake costs most. */
const WANTED: Record<string, number> = {
  item: 85,
  workflow: 85,
  board: 85,
  condition: 85,
  flow: 85,
  calendar: 85,
};
const WANTED_ELSEWHERE = 70;

const NOTICED: MutantStatus[] = ["Killed", "Timeout"];
const MISSED: MutantStatus[] = ["Survived", "NoCoverage"];

export interface Scored {
  domain: string;
  statuses: MutantStatus[];
}

function row({ domain, statuses }: Scored): string {
  const count = (...of: MutantStatus[]) => statuses.filter((status) => of.includes(status)).length;
  const noticed = count(...NOTICED);
  const all = noticed + count(...MISSED);
  const score = all > 0 ? `${((noticed / all) * 100).toFixed(1)} %` : "–";
  const wanted = `${WANTED[domain] ?? WANTED_ELSEWHERE} %`;
  return `| ${domain} | ${all} | ${noticed} | ${count("NoCoverage")} | ${score} | ${wanted} |`;
}

/** The rows that stand in a table, by their domains. */
function rowsIn(file: string): Map<string, string> {
  const lines = existsSync(file) ? readFileSync(file, "utf8").split("\n") : [];
  const rows = lines.filter((line) => /^\| [a-z]+ \| \d/.test(line));
  return new Map(rows.map((line) => [line.split(" ")[1], line]));
}

/** Writes the scores into their table, a row a domain; other domains keep the row they had. */
export function writeScores(file: string, scored: Scored[]): void {
  const rows = rowsIn(file);
  for (const one of scored) if (one.statuses.length > 0) rows.set(one.domain, row(one));
  const lines = [
    "# Mutation score",
    "",
    "How many small changes of the core's code the core's tests notice. Written by `bin/mutate`; from one run to the",
    "next it may only rise. A change that no test reaches counts as not noticed; what runs once while a file is loaded",
    "is left out. Slow tests and long properties take no part, so the whole of the tests notices more than stands here.",
    "",
    "| domain | changes | noticed | reached by no test | score | wanted |",
    "|---|---|---|---|---|---|",
    ...[...rows.keys()].sort().map((domain) => rows.get(domain)!),
    "",
  ];
  writeFileSync(file, lines.join("\n"));
}
