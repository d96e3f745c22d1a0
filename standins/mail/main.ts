import { startMailStandIn } from "./server";

/** Runs the mailbox until it is told to stop. */
async function run(): Promise<void> {
  const { MAIL_PORT, MAILBOX_PORT, MAIL_DOMAIN, MAIL_DOOR_PORT } = process.env;
  if (!MAIL_PORT || !MAILBOX_PORT || !MAIL_DOMAIN || !MAIL_DOOR_PORT) throw new Error("MAIL_PORT, MAILBOX_PORT, MAIL_DOMAIN and MAIL_DOOR_PORT say where it stands.");
  const standIn = await startMailStandIn({ smtpPort: Number(MAIL_PORT), webPort: Number(MAILBOX_PORT), domain: MAIL_DOMAIN, doorPort: Number(MAIL_DOOR_PORT) });
  console.log(`mail is taken on port ${standIn.smtpPort}, the mailbox is at http://localhost:${standIn.webPort}`);
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, () => void standIn.close().then(() => process.exit(0)));
}

run().catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
