import nodemailer, { type Transporter } from "nodemailer";
import { mailSettings } from "./settings";

export type { Transporter };

let transport: { key: string; mailer: Transporter } | null = null;

/** The way out for mail; null where none is sent. */
export function mailer(): Transporter | null {
  const { outgoing } = mailSettings();
  if (!outgoing) return null;
  const key = JSON.stringify(outgoing);
  if (transport?.key !== key) {
    transport?.mailer.close();
    transport = {
      key,
      mailer: nodemailer.createTransport({
        ...outgoing,
        pool: true,
        maxConnections: 2,
        connectionTimeout: 10_000,
        socketTimeout: 30_000,
      }),
    };
  }
  return transport.mailer;
}

/** Ends the connections to the mail server. */
export function closeMail(): void {
  transport?.mailer.close();
  transport = null;
}
