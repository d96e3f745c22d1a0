import { SMTPServer, type SMTPServerSession } from "smtp-server";
import { isUnreachable } from "@/db/connection";
import { admitMail, keepMail, LARGEST_MAIL } from "@/server/mail/keep";
import { log, traced } from "@/server/log";
import { holdPort } from "@/server/supervised";

export interface MailDoor {
  port: number;
  close: () => Promise<void>;
}

const LOOPBACK = "127.0.0.1";
const MOST_AT_ONCE = 20;
const MOST_RECIPIENTS = 10;
const PATIENCE_MS = 60_000;

/** A failure as SMTP says it: 4xx may be tried again, 5xx not (RFC 5321, section 4.2.1). */
const smtpError = (responseCode: number, message: string) =>
  Object.assign(new Error(message), { responseCode });

/**
 * The machine that the mail came from, as the server before the door tells it (XFORWARD); null
 * where it does not.
 */
const clientOf = (session: SMTPServerSession): string | null => {
  const address = String(session.xForward?.get("ADDR") || session.remoteAddress);
  return /^(?:::ffff:)?127\.|^::1$/.test(address) ? null : address.slice(0, 64);
};

const senderOf = ({ envelope }: SMTPServerSession) =>
  envelope.mailFrom ? envelope.mailFrom.address : "";

/** The door's own port; the next free one where it is taken. */
const FIRST_PORT = 4345;

/**
 * The door through which mail for the product's addresses is handed over, by SMTP. It stands on
 * loopback only: a mail server before it takes mail from the world. A mail is acknowledged when it
 * is kept, as it came, never before; it is read afterwards.
 * @param port null for any that is free
 */
export async function openMailDoor(port: number | null): Promise<MailDoor> {
  const server = new SMTPServer({
    banner: "mail door",
    size: LARGEST_MAIL,
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    // Only servers on this machine reach the door; what they say of the client is believed.
    useXForward: true,
    maxClients: MOST_AT_ONCE,
    socketTimeout: PATIENCE_MS,
    logger: false,
    onRcptTo: (address, session, answer) => {
      if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
        return answer(smtpError(452, "Too many recipients."));
      admitMail(address.address, clientOf(session)).then(
        (admission) =>
          answer(
            admission === "welcome"
              ? null
              : admission === "unknown"
                ? smtpError(550, "There is no such address here.")
                : smtpError(451, "Too many mails at once, try again later."),
          ),
        (error) => answer(unavailable(error)),
      );
    },
    onData: (stream, session, answer) => {
      const parts: Buffer[] = [];
      let size = 0;
      stream.on("data", (part: Buffer) => {
        size += part.length;
        // The rest of one that is too large is read and forgotten.
        if (size <= LARGEST_MAIL) parts.push(part);
        else parts.length = 0;
      });
      stream.on("error", (error) => answer(error));
      stream.on("end", () => {
        if (stream.sizeExceeded || size > LARGEST_MAIL)
          return answer(smtpError(552, `A mail has at most ${LARGEST_MAIL / 1048576} MB.`));
        keepFor(Buffer.concat(parts), session).then(
          () => answer(null),
          (error) => answer(unavailable(error)),
        );
      });
    },
  });
  server.on("error", (error) =>
    log.warn(traced(error), "a conversation at the mail door ended badly"),
  );
  const held = await holdPort(server.server, port ?? FIRST_PORT, LOOPBACK, port !== null);
  return { port: held, close: () => new Promise((resolve) => server.close(() => resolve())) };
}

async function keepFor(raw: Buffer, session: SMTPServerSession): Promise<void> {
  for (const { address } of session.envelope.rcptTo)
    if (!(await keepMail(raw, { from: senderOf(session), to: address })))
      throw new Error("the address was closed meanwhile");
}

/** Nothing is taken that cannot be stored; the sender's server keeps it and tries again. */
function unavailable(error: unknown): Error {
  if (!isUnreachable(error)) log.error(traced(error), "a mail could not be kept");
  return smtpError(451, "It cannot be taken just now, try again later.");
}
