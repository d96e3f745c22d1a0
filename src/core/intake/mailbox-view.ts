import type { MailFate } from "./letters";

/** The mailbox of a project: its addresses, what came in, and what went out. */
export interface MailboxView {
  project: { key: string; name: string; zone: string };
  domain: string;
  addresses: { name: string; teamId: string | null; open: boolean }[];
  teams: { id: string; name: string }[];
  received: {
    at: number;
    sender: string;
    subject: string;
    became: MailFate;
    reference: string | null;
    reportId: string | null;
    /** Of an answer to an alert that is no comment: why, and what it says. */
    why: string | null;
    words: string | null;
    itemKey: string | null;
  }[];
  written: {
    id: number;
    at: number;
    recipient: string;
    subject: string;
    body: string;
    reference: string;
    sentAt: number | null;
    dueAt: number;
    failed: string | null;
  }[];
  waiting: number;
  sends: boolean;
  takes: boolean;
  /** Where the stand-in shows its mailbox, if one runs beside the product. */
  standIn: string | null;
  mayEdit: boolean;
  now: number;
}
