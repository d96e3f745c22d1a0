import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { gunzipSync } from "node:zlib";
import { closedBy } from "@/core/ship/closing-words";
import shapes from "./closing/debian-shapes.json";

/*
 * Debian's rule for what a changelog closes (deb-changelog(5), "Closes"), which its archive has
 * followed for decades. `closing/debian-shapes.json` has every form in which the changelogs of a
 * Debian 12 machine write it, once each, with other numbers; where there are changelogs on this
 * machine all of them are read too.
 */
const DEBIAN = /closes:\s*(?:bug)?#?\s?\d+(?:,\s*(?:bug)?#?\s?\d+)*/gi;

const SYNTAX = { words: ["closes"], key: "\\d+" };

const byDebian = (text: string): string[] => [
  ...new Set([...text.matchAll(DEBIAN)].flatMap(([said]) => said.match(/\d+/g)!)),
];

test.each(shapes)("%j closes what Debian's rule says", (text) => {
  expect(byDebian(text).length).toBeGreaterThan(0);
  expect(closedBy(text, SYNTAX)).toEqual(byDebian(text));
});

/** Entries of changelogs: each a text of its own, as a commit's message is. */
function entries(): string[] {
  const docs = "/usr/share/doc";
  const packages = readdirSync(docs, { withFileTypes: true }).filter((entry) =>
    entry.isDirectory(),
  );
  return packages.flatMap(({ name }) => {
    try {
      const file = readFileSync(path.join(docs, name, "changelog.Debian.gz"));
      return gunzipSync(file)
        .toString("utf8")
        .split(/\n(?= {2}\*)/);
    } catch {
      return [];
    }
  });
}

/** The forms that we take and Debian does not: without a colon, or with "and" in the list. */
const OTHER = /\bcloses\s+(?!:)(?:(?:bug|item)\s?)?#?\s?\d|closes\s*:.*?\d\s*(?:,\s*)?and\s/is;

test("the changelogs of this machine: all that Debian closes, and beyond it only forms that are listed", () => {
  const all = entries().filter((text) => /closes/i.test(text));
  const others = all.filter((text) => {
    const ours = closedBy(text, SYNTAX);
    const theirs = byDebian(text.slice(0, 20_000));
    expect(ours).toEqual(expect.arrayContaining(theirs));
    return ours.length > theirs.length;
  });
  expect(others.filter((text) => !OTHER.test(text))).toEqual([]);
});
