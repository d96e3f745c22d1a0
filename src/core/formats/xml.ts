import { SaxesParser } from "saxes";

/** An element as it stands in its document, comments left out. */
export interface XmlElement {
  /** With its prefix, as written. */
  name: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  text: string;
}

export const LARGEST_FILE = 5 * 1024 * 1024;
const DEEPEST = 60;
const MOST_ELEMENTS = 50_000;

/** Bad input: what is wrong, and where as far as it is known. */
export class FileProblem extends Error {}

const FORBIDDEN = /[^\u0009\u000a\u000d\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/u;

/** Text for an attribute or an element. What XML cannot hold at all is left out. */
export function escapeText(text: string): string {
  return text
    .replace(new RegExp(FORBIDDEN.source, "gu"), "")
    .replace(/[&<>"]/g, (c) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[c]!)
    .replace(/[\t\r\n]/g, (c) => `&#${c.codePointAt(0)};`);
}

/** Attributes of an element, those without a value left out. */
export function attributes(values: Readonly<Record<string, string | null>>): string {
  return Object.entries(values)
    .map(([name, value]) => (value === null ? "" : ` ${name}="${escapeText(value)}"`))
    .join("");
}

/**
 * Reads an XML document in one pass that stops at the first thing that is wrong. Documents with a
 * DOCTYPE are refused: no entity is ever expanded.
 * @throws FileProblem when it is too large, too deep, has too many elements, or is not well-formed
 */
export function readXml(text: string): XmlElement {
  if (text.length > LARGEST_FILE) throw new FileProblem("The file is larger than 5 MB.");
  const parser = new SaxesParser();
  const open: XmlElement[] = [];
  let root: XmlElement | null = null;
  let elements = 0;
  parser.on("error", (error) => {
    const what = error.message.replace(/^\d+:\d+: /, "").replace(/\.$/, "");
    throw new FileProblem(`This is no well-formed XML: line ${parser.line}, ${what}.`);
  });
  parser.on("doctype", () => {
    throw new FileProblem(
      "The file has a document type declaration. For safety such files are not read; take it out.",
    );
  });
  parser.on("opentag", (tag) => {
    elements += 1;
    if (open.length >= DEEPEST)
      throw new FileProblem(`The file nests elements more than ${DEEPEST} deep.`);
    if (elements > MOST_ELEMENTS)
      throw new FileProblem(
        `The file has more than ${MOST_ELEMENTS.toLocaleString("en")} elements.`,
      );
    const element: XmlElement = {
      name: tag.name,
      attributes: tag.attributes,
      children: [],
      text: "",
    };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  parser.on("closetag", () => void open.pop());
  const addText = (part: string) => {
    const inside = open.at(-1);
    if (inside) inside.text += part;
  };
  parser.on("text", addText);
  parser.on("cdata", addText);
  parser.write(text).close();
  if (root === null) throw new FileProblem("The file has no element.");
  return root;
}
