import { createHash } from "node:crypto";
import { simpleParser, type ParsedMail } from "mailparser";
import type { MailHeaders } from "@/core/formats/mail-text";
import { plainText } from "@/core/formats/plain-text";
import { checkFile, MOST_FILES, type CheckedFile } from "../intake/file";
import { invalid, Refused } from "../refused";

/** A mail as far as the product reads it. */
export interface ReadMail {
  /** Its Message-ID, or a digest of the whole mail where it has none. */
  messageId: string;
  /** Where an answer goes, in small letters. */
  sender: string;
  subject: string;
  /** As plain text, whatever it was written as: of a mail that is only HTML, its words. */
  text: string;
  headers: MailHeaders;
  files: CheckedFile[];
}

const LONGEST_HTML = 2 * 1024 * 1024;

/**
 * Reads a mail as RFC 5322 and MIME describe it, and as real programs break it: what can be read is read.
 * @throws Refused when it is made so that reading it would take too much
 */
export async function readMail(raw: Buffer, returnPath: string): Promise<ReadMail> {
  const mail = await simpleParser(raw, { skipImageLinks: true, maxHtmlLengthToParse: LONGEST_HTML }).catch((error: Error) => {
    throw invalid("This mail cannot be read.", error.message);
  });
  return {
    messageId: mail.messageId?.slice(0, 300) || `<${createHash("sha256").update(raw).digest("hex")}@nowhere>`,
    sender: (mail.replyTo?.value[0]?.address ?? mail.from?.value[0]?.address ?? returnPath).toLowerCase().slice(0, 200),
    subject: plainText(mail.subject ?? "").slice(0, 300),
    text: plainText(mail.text ?? ""),
    headers: headersOf(mail),
    files: filesOf(mail),
  };
}

function headersOf(mail: ParsedMail): MailHeaders {
  const headers: Record<string, string[]> = {};
  for (const { key, line } of mail.headerLines) (headers[key] ??= []).push(line.slice(line.indexOf(":") + 1).replace(/\r?\n[ \t]+/g, " ").trim());
  return headers;
}

/** What came with a mail and can be taken; what cannot is left out, because a mail cannot be asked to come again. */
function filesOf(mail: ParsedMail): CheckedFile[] {
  const files: CheckedFile[] = [];
  for (const a of mail.attachments) {
    if (files.length === MOST_FILES) break;
    try {
      files.push(checkFile({ name: a.filename ?? (a.related ? "picture in the text" : "file"), content: a.content }));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
    }
  }
  return files;
}
