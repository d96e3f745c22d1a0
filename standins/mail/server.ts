import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { Readable } from "node:stream";
import nodemailer from "nodemailer";
import { SMTPServer } from "smtp-server";
import { listen, LOOPBACK } from "../listen";
import { Mailbox } from "./kept-mail";
import { listPage, mailPage, writePage, type Draft } from "./pages";

/*
 * A small mail server and mailbox for one machine. It takes what the product sends and shows it,
 * and hands over to the product what is written here. It listens on loopback only and relays
 * nothing to anywhere else.
 */

const LARGEST = 12 * 1024 * 1024;

export interface MailStandInSettings {
  /** Null for any port that is free. */
  smtpPort: number | null;
  webPort: number | null;
  /** Mail to this domain is handed to the product's door; everything else is kept here. */
  domain: string;
  /** Null until it is told. */
  doorPort: number | null;
}

export interface MailStandIn {
  smtpPort: number;
  webPort: number;
  mailbox: Mailbox;
  /** Says where the product's door stands now. */
  openDoor: (port: number) => void;
  close: () => Promise<void>;
}

const FIRST_SMTP = 4325;
const FIRST_WEB = 4365;

const doorAt = (port: number) =>
  nodemailer.createTransport({
    host: LOOPBACK,
    port,
    secure: false,
    ignoreTLS: true,
    connectionTimeout: 5_000,
  });

export async function startMailStandIn({
  smtpPort,
  webPort,
  domain,
  doorPort,
}: MailStandInSettings): Promise<MailStandIn> {
  const mailbox = new Mailbox();
  let door = doorPort === null ? null : doorAt(doorPort);
  const isOurs = (address: string) => address.toLowerCase().endsWith(`@${domain.toLowerCase()}`);
  const deliver = async (raw: Buffer, from: string, to: readonly string[]) => {
    const inward = to.filter(isOurs);
    for (const address of to.filter((a) => !isOurs(a))) await mailbox.keep(raw, address);
    if (inward.length === 0) return;
    if (!door) throw new Error("The product's door is not open yet.");
    await door.sendMail({ envelope: { from, to: inward }, raw });
  };

  const smtp = new SMTPServer({
    banner: "mailbox of the quay",
    size: LARGEST,
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    logger: false,
    onData: (stream, session, answer) => {
      const parts: Buffer[] = [];
      stream.on("data", (part: Buffer) => parts.push(part));
      stream.on("error", answer);
      stream.on("end", () => {
        if (stream.sizeExceeded)
          return answer(Object.assign(new Error("It is too large."), { responseCode: 552 }));
        const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
        deliver(
          Buffer.concat(parts),
          from,
          session.envelope.rcptTo.map((r) => r.address),
        ).then(() => answer(null), answer);
      });
    },
  });
  smtp.on("error", (error) => console.error(`mail stand-in: ${error.message}`));

  const write = async (draft: Draft, file: File | null) => {
    const answered = draft.answers ? mailbox.find(draft.answers) : undefined;
    const attachments =
      file && file.size > 0
        ? [{ filename: file.name, content: Buffer.from(await file.arrayBuffer()) }]
        : [];
    const composed = nodemailer.createTransport({ streamTransport: true, buffer: true });
    const { message } = await composed.sendMail({
      from: draft.from,
      to: draft.to,
      subject: draft.subject,
      text: draft.text,
      attachments,
      ...(answered
        ? {
            inReplyTo: answered.messageId,
            references: [...answered.references, answered.messageId],
          }
        : {}),
    });
    await deliver(message as Buffer, draft.from, [draft.to]);
  };

  const web = createServer((request, response) => {
    handle(request, { mailbox, write, domain }).then(
      ({ status, body, location }) => {
        response.writeHead(status, {
          "Content-Type": "text/html; charset=utf-8",
          "Content-Security-Policy":
            "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'",
          "X-Content-Type-Options": "nosniff",
          ...(location ? { Location: location } : {}),
        });
        response.end(body);
      },
      (error: Error) => end(response, 500, error.message),
    );
  });
  const ports = [
    await listen(smtp.server, smtpPort, FIRST_SMTP),
    await listen(web, webPort, FIRST_WEB),
  ];
  return {
    smtpPort: ports[0],
    webPort: ports[1],
    mailbox,
    openDoor: (port) => {
      door?.close();
      door = doorAt(port);
    },
    close: async () => {
      door?.close();
      web.closeAllConnections();
      await Promise.all([
        new Promise<void>((resolve) => smtp.close(() => resolve())),
        new Promise((resolve) => web.close(resolve)),
      ]);
    },
  };
}

function end(response: ServerResponse, status: number, words: string): void {
  response.writeHead(status, { "Content-Type": "text/plain; charset=utf-8" });
  response.end(words);
}

interface Answer {
  status: number;
  body: string;
  location?: string;
}

async function handle(
  request: IncomingMessage,
  {
    mailbox,
    write,
    domain,
  }: {
    mailbox: Mailbox;
    write: (draft: Draft, file: File | null) => Promise<void>;
    domain: string;
  },
): Promise<Answer> {
  const url = new URL(request.url ?? "/", `http://${LOOPBACK}`);
  const blank: Draft = {
    from: "anna@post.saltmarsh.example",
    to: url.searchParams.get("to") ?? `tickets@${domain}`,
    subject: "",
    text: "",
  };
  if (request.method === "POST" && url.pathname === "/write") {
    // Only its own pages may make it write.
    const origin = request.headers.origin;
    if (origin && new URL(origin).host !== request.headers.host)
      return { status: 403, body: listPage(mailbox.all(), "Written from another site: not sent.") };
    if (!(Number(request.headers["content-length"]) <= 2 * LARGEST))
      return { status: 413, body: listPage(mailbox.all(), "That is too large.") };
    const form = await new Response(Readable.toWeb(request) as ReadableStream, {
      headers: { "content-type": request.headers["content-type"] ?? "" },
    }).formData();
    const field = (name: string) => String(form.get(name) ?? "").slice(0, 100_000);
    const draft: Draft = {
      from: field("from"),
      to: field("to"),
      subject: field("subject"),
      text: field("text"),
      answers: Number(field("answers")) || undefined,
    };
    const file = form.get("file");
    try {
      await write(draft, file instanceof File ? file : null);
    } catch (error) {
      return {
        status: 502,
        body: writePage(draft, `It was not taken: ${(error as Error).message}`),
      };
    }
    return { status: 303, body: "", location: "/?sent" };
  }
  if (url.pathname === "/")
    return {
      status: 200,
      body: listPage(mailbox.all(), url.searchParams.has("sent") ? "Your mail is sent." : ""),
    };
  if (url.pathname === "/write") return { status: 200, body: writePage(blank) };
  const mail = mailbox.find(Number(/^\/mail\/(\d+)$/.exec(url.pathname)?.[1]));
  return mail
    ? { status: 200, body: mailPage(mail) }
    : { status: 404, body: listPage(mailbox.all(), "That mail is not here.") };
}
