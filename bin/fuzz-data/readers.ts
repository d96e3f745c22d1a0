import { z } from "zod";
import { parseCel } from "@/core/condition/cel-parse";
import { parseFormula } from "@/core/condition/formula-text";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { readCloudEvents, UnsignedEvent } from "@/core/formats/cloud-event";
import { decodeText } from "@/core/formats/decode-text";
import { htmlText } from "@/core/formats/html-text";
import { ownWords, plainHeaders, titleOf } from "@/core/formats/mail-text";
import { isTame } from "@/core/formats/markdown-bounds";
import { matchColumns, readTable, reportsOf } from "@/core/formats/report-table";
import { readScxml } from "@/core/formats/scxml-read";
import { readWorkflowJson } from "@/core/formats/workflow-json";
import { FileProblem, readXml } from "@/core/formats/xml";
import { cleanName } from "@/server/files/kind";
import { readMail } from "@/server/mail/read";
import { Refused } from "@/server/refused";

/**
 * Something that reads text from outside, and what must be true of whatever it makes of any text.
 */
export interface FuzzedReader {
  name: string;
  /** A text that it understands, to be broken. */
  sample: string;
  /**
   * @throws only what it throws for bad input; @returns a complaint where it kept silent about
   * something
   */
  read: (text: string) => string | null | Promise<string | null>;
}

const fine = (holds: boolean, complaint: string): string | null => (holds ? null : complaint);
const hasWords = (text: string) => /[\p{L}\p{N}]/u.test(text);

/** Errors by which readers say, in words, that something cannot be read. */
export const isRefusalInWords = (error: unknown): boolean =>
  error instanceof FileProblem ||
  error instanceof z.ZodError ||
  error instanceof SyntaxError ||
  error instanceof UnsignedEvent ||
  error instanceof Refused;

const MAIL =
  "From: Anna <anna@post.saltmarsh.example>\r\nTo: tickets@in.saltmarsh.example\r\nSubject: =?UTF-8?Q?G=C3=A4ste?=\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n<p>Gate 4 =E2=80=93 <b>hums</b></p>\r\n--b\r\nContent-Type: image/png; name=x.png\r\nContent-Transfer-Encoding: base64\r\n\r\niVBORw0KGgo=\r\n--b--\r\n";
const SCXML =
  '<?xml version="1.0"?><scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" initial="a"><state id="a"><transition event="go on" target="b" cond="x &gt; 1"/></state><parallel id="p"><state id="b"/><history id="h"><transition target="b"/></history></parallel><final id="done"/></scxml>';

export const READERS: readonly FuzzedReader[] = [
  {
    name: "own words of mails",
    sample:
      "Saturday.\n\nOn Mon, 3 Nov 2025 at 10:12, Tickets <t@x.example> wrote:\n> Which night?\n-- \nAnna",
    read: (text) =>
      fine(
        !hasWords(text.slice(0, 9_000)) || ownWords(text).text !== "",
        "words came in and none came out",
      ),
  },
  {
    name: "titles",
    sample: "Re: AW: Gate 4",
    read: (text) =>
      fine(
        titleOf(text, text).length <= 200 && titleOf(text, text) !== "",
        "no title, or one too long",
      ),
  },
  {
    name: "headers",
    sample: MAIL,
    read: (text) => fine(typeof plainHeaders(text) === "object", "no headers"),
  },
  {
    name: "HTML",
    sample:
      "<html><body><p>Gate&nbsp;4 <a href='x'>hums</a></p><ul><li>one</li></ul></body></html>",
    read: (text) => fine(typeof htmlText(text) === "string", "no text"),
  },
  {
    name: "Markdown bounds",
    sample: "**Gate 4** hums\n> - 1. [a](b) | c |",
    read: (text) => fine(typeof isTame(text) === "boolean", "neither yes nor no"),
  },
  {
    name: "XML",
    sample: SCXML,
    read: (text) => fine(readXml(text).name !== "", "an element without a name"),
  },
  {
    name: "SCXML",
    sample: SCXML,
    read: (text) => {
      let n = 0;
      const { workflow, taken } = readScxml(text, EMPTY_VOCABULARY, () => `id-${n++}`);
      return fine(taken.length >= workflow.states.length, "states were taken and not told");
    },
  },
  {
    name: "tables",
    sample: 'title;what happened;mail\r\n"Dark; very";It is dark;p@post.example\n\n5" screen;x;\r',
    read: (text) => {
      const table = readTable(text);
      const { reports, problems } = reportsOf(table, matchColumns(table), "2026-11-23");
      return fine(
        reports.length + problems.length === table.rows.length,
        "a row is neither taken nor told",
      );
    },
  },
  {
    name: "letters of files",
    sample: "Gäste",
    read: (text) => fine(decodeText(Buffer.from(text, "latin1")).text.length >= 0, "no text"),
  },
  {
    name: "conditions",
    sample: 'item.type == "bug" && (item.estimate > 3.0 || !("x" in item.labels))',
    read: (text) => {
      const { condition, problem } = parseCel(text, EMPTY_VOCABULARY);
      return fine(
        (condition === null) !== (problem === null) &&
          (problem === null || (problem.at >= 0 && problem.at <= Math.max(text.length, 4_000))),
        "neither a condition nor a problem at a character of it",
      );
    },
  },
  {
    name: "formulas",
    sample: "item.estimate * (2.0 - 1) / -3",
    read: (text) => {
      const { formula, problem } = parseFormula(text, EMPTY_VOCABULARY);
      return fine((formula === null) !== (problem === null), "neither a formula nor a problem");
    },
  },
  {
    name: "JSON",
    sample: '{"format":"urn:zigzag-lane:workflow:1","workflow":{"states":[],"transitions":[]}}',
    read: (text) => fine(readWorkflowJson(text).workflow.states.length >= 0, "no workflow"),
  },
  {
    name: "events",
    sample: '{"specversion":"1.0","id":"1","source":"/s","type":"t","data":{"a":[1]}}',
    read: (text) =>
      fine(readCloudEvents("application/cloudevents+json", text).length === 1, "not one event"),
  },
  {
    name: "names of files",
    sample: "..\\../päss\u202ewd.txt",
    read: (text) =>
      fine(
        cleanName(text) !== "" && !/[/\\\u0000-\u001f]/.test(cleanName(text)),
        "a name that is none",
      ),
  },
  {
    name: "mails",
    sample: MAIL,
    read: async (text) => {
      const mail = await readMail(Buffer.from(text, "utf8"), "envelope@post.saltmarsh.example");
      return fine(
        mail.messageId !== "" &&
          mail.text.length + mail.subject.length + mail.files.length + mail.left.length >= 0,
        "a mail without an id",
      );
    },
  },
];
