import { simpleParser } from "mailparser";

/** A mail that the stand-in keeps, as a reader sees it. */
export interface KeptMail {
  id: number;
  from: string;
  to: string;
  subject: string;
  text: string;
  messageId: string;
  references: string[];
  /** Where an answer to it goes. */
  answerTo: string;
  /** As it came. */
  raw: Buffer;
  at: number;
}

const MOST_KEPT = 500;

/** The mails of everybody who has no account, newest first; only as long as the stand-in runs. */
export class Mailbox {
  private mails: KeptMail[] = [];
  private last = 0;

  async keep(raw: Buffer, to: string, now = Date.now()): Promise<KeptMail> {
    const mail = await simpleParser(raw);
    const references =
      mail.references === undefined
        ? []
        : Array.isArray(mail.references)
          ? mail.references
          : [mail.references];
    const kept = {
      id: ++this.last,
      from: mail.from?.text ?? "",
      to,
      subject: mail.subject ?? "",
      text: mail.text ?? "",
      messageId: mail.messageId ?? "",
      references,
      answerTo: (mail.replyTo ?? mail.from)?.value[0]?.address ?? "",
      raw,
      at: now,
    };
    this.mails = [kept, ...this.mails].slice(0, MOST_KEPT);
    return kept;
  }

  all(): readonly KeptMail[] {
    return this.mails;
  }

  find(id: number): KeptMail | undefined {
    return this.mails.find((m) => m.id === id);
  }
}
