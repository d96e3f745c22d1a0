import { createHash } from "node:crypto";
import { simpleParser, type AddressObject, type ParsedMail } from "mailparser";
import { cutText } from "@/core/formats/cut-text";
import { htmlText } from "@/core/formats/html-text";
import type { MailHeaders } from "@/core/formats/mail-text";
import { plainText } from "@/core/formats/plain-text";
import { MOST_FILES } from "@/core/intake/file-limits";
import { cleanName } from "../files/kind";
import { checkFile, type CheckedFile } from "../intake/file";
import { invalid, Refused } from "../refused";

/** A mail as far as the product reads it. */
export interface ReadMail {
  /** Its Message-ID, or a digest of the whole mail where it has none. */
  messageId: string;
  /** Where an answer goes, in small letters; empty where nothing in it says. */
  sender: string;
  /** Whether that is who wrote it: what is not asked for is written to nobody else. */
  senderWrote: boolean;
  subject: string;
  /** As plain text, whatever it was written as: of a mail that is only HTML, its words. */
  text: string;
  headers: MailHeaders;
  files: CheckedFile[];
  /** What came along and is not taken, with why. */
  left: { name: string; why: string }[];
}

const LONGEST_HTML = 2 * 1024 * 1024;
const MOST_HEADERS = 2_000;

/** An id for mails that have none, the same each time. */
export const digestId = (raw: Buffer): string =>
  `<${createHash("sha256").update(raw).digest("hex")}@nowhere>`;

/**
 * Reads a mail as RFC 5322 and MIME describe it, and as real programs break it: what can be read is
 * read.
 * @throws Refused when it is made so that reading it would take too much
 */
export async function readMail(raw: Buffer, returnPath: string): Promise<ReadMail> {
  const mail = await simpleParser(raw, {
    skipImageLinks: true,
    maxHtmlLengthToParse: LONGEST_HTML,
  }).catch((error: Error) => {
    throw invalid("This mail cannot be read.", error.message);
  });
  const from = addressIn(mail.from);
  const sender = addressIn(mail.replyTo) || from || addressOf(returnPath);
  return {
    messageId: mail.messageId ? cutText(mail.messageId, 300) : digestId(raw),
    sender,
    senderWrote: sender !== "" && sender === (from || addressOf(returnPath)),
    subject: cutText(plainText(mail.subject ?? ""), 300),
    text: textOf(mail),
    headers: headersOf(mail),
    ...filesOf(mail),
  };
}

/** Of two ways to say it the plain one counts, unless nothing stands there. */
function textOf({ text, html }: ParsedMail): string {
  const plain = plainText(text ?? "");
  return plain.trim() === "" && html ? plainText(htmlText(html)) : plain;
}

/** The first usable address of a header; its groups are looked into (RFC 5322, section 3.4). */
function addressIn(header: AddressObject | AddressObject[] | undefined): string {
  const named = [header ?? []]
    .flat()
    .flatMap((h) => h.value.flatMap((v) => [v, ...(v.group ?? [])]));
  return named.map((v) => addressOf(v.address ?? "")).find((a) => a !== "") ?? "";
}

/** An address in small letters, or nothing where it is none. */
function addressOf(text: string): string {
  const address = text.trim().toLowerCase();
  return address.length <= 200 && /^[^\s@<>]+@[^\s@<>]+$/.test(address) ? address : "";
}

function headersOf(mail: ParsedMail): MailHeaders {
  const headers: Record<string, string[]> = Object.create(null);
  for (const { key, line } of mail.headerLines.slice(0, MOST_HEADERS)) {
    const value = cutText(line, 20_000).slice(line.indexOf(":") + 1);
    (headers[key] ??= []).push(value.replace(/\r?\n[ \t]/g, " ").trim());
  }
  return headers;
}

/**
 * What came with a mail and can be taken; what cannot is said, because a mail cannot be asked to
 * come again.
 */
function filesOf(mail: ParsedMail): Pick<ReadMail, "files" | "left"> {
  const files: CheckedFile[] = [];
  const left: ReadMail["left"] = [];
  for (const a of mail.attachments) {
    const name = a.filename ?? (a.related ? "picture in the text" : "file");
    if (files.length === MOST_FILES) {
      left.push({ name: cleanName(name), why: `a report has at most ${MOST_FILES} files` });
      continue;
    }
    try {
      files.push(checkFile({ name, content: a.content }));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      left.push({
        name: cleanName(name),
        why:
          a.content.length > 0 ? "it is too large, or of a kind that is not taken" : "it is empty",
      });
    }
  }
  return { files, left };
}
