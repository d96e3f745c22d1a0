import { XMLParser, XMLValidator } from "fast-xml-parser";

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
  return Object.entries(values).map(([name, value]) => (value === null ? "" : ` ${name}="${escapeText(value)}"`)).join("");
}

const ENTITIES: Record<string, string> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };

function unescapeText(text: string): string {
  return text.replace(/&(#x[0-9a-f]+|#[0-9]+|[a-z]+);/gi, (whole, name: string) => {
    if (!name.startsWith("#")) return ENTITIES[name] ?? whole;
    const code = name[1].toLowerCase() === "x" ? parseInt(name.slice(2), 16) : parseInt(name.slice(1), 10);
    return code <= 0x10ffff ? String.fromCodePoint(code) : "";
  });
}

/**
 * Reads an XML document. Documents with a DOCTYPE are refused: no entity is ever expanded.
 * @throws FileProblem when it is too large, too deep or not well-formed
 */
export function readXml(text: string): XmlElement {
  if (text.length > LARGEST_FILE) throw new FileProblem("The file is larger than 5 MB.");
  if (/<!DOCTYPE|<!ENTITY/i.test(text)) throw new FileProblem("The file has a document type declaration. For safety such files are not read; take it out.");
  if (deepest(text) > DEEPEST) throw new FileProblem(`The file nests elements more than ${DEEPEST} deep.`);
  const valid = XMLValidator.validate(text);
  if (valid !== true) throw new FileProblem(`This is no well-formed XML: line ${valid.err.line}, ${valid.err.msg.replace(/\.$/, "")}.`);
  const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: "", processEntities: false, trimValues: false, parseTagValue: false, parseAttributeValue: false });
  const roots = elementsOf(parser.parse(text) as ParsedNode[]).children.filter((e) => !e.name.startsWith("?"));
  if (roots.length !== 1) throw new FileProblem("The file has no single element that holds all others.");
  return roots[0];
}

type ParsedNode = Record<string, unknown> & { ":@"?: Record<string, string> };

function elementsOf(nodes: readonly ParsedNode[]): { children: XmlElement[]; text: string } {
  const children: XmlElement[] = [];
  let text = "";
  for (const node of nodes) {
    const name = Object.keys(node).find((key) => key !== ":@");
    if (name === undefined) continue;
    if (name === "#text") text += unescapeText(String(node[name]));
    else {
      const given = Object.fromEntries(Object.entries(node[":@"] ?? {}).map(([key, value]) => [key, unescapeText(String(value))]));
      children.push({ name, attributes: given, ...elementsOf(node[name] as ParsedNode[]) });
    }
  }
  return { children, text };
}

/** How deep elements nest, counted before anything recursive looks at the text. */
function deepest(text: string): number {
  let depth = 0;
  let most = 0;
  for (const [tag] of text.matchAll(/<!--[\s\S]*?-->|<!\[CDATA\[[\s\S]*?\]\]>|<\/?[^!?][^>]*>/g)) {
    if (tag.startsWith("<!")) continue;
    if (tag.startsWith("</")) depth -= 1;
    else if (!tag.endsWith("/>")) most = Math.max(most, (depth += 1));
  }
  return most;
}
