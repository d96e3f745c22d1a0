import { startMailStandIn } from "./server";

/**
 * Runs the mailbox until it is told to stop, or whoever started it is gone. Where the product's own
 * door stands may be told later, when it is open.
 */
async function run(): Promise<void> {
  const { MAIL_PORT, MAILBOX_PORT, MAIL_DOMAIN, MAIL_DOOR_PORT } = process.env;
  if (!MAIL_DOMAIN) throw new Error("MAIL_DOMAIN says whose mail the product takes.");
  const port = (setting: string | undefined) => (setting ? Number(setting) : null);
  const standIn = await startMailStandIn({
    smtpPort: port(MAIL_PORT),
    webPort: port(MAILBOX_PORT),
    domain: MAIL_DOMAIN,
    doorPort: port(MAIL_DOOR_PORT),
  });
  console.log(
    `mail is taken on port ${standIn.smtpPort}, the mailbox is at http://localhost:${standIn.webPort}`,
  );
  const stop = () => {
    // Whoever still talks is not waited for.
    setTimeout(() => process.exit(0), 1_500);
    void standIn.close().then(() => process.exit(0));
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, stop);
  process.on("message", (told: { door?: number }) => {
    if (told.door) standIn.openDoor(told.door);
  });
  if (process.send) process.on("disconnect", stop);
  process.send?.({ ready: { smtp: standIn.smtpPort, mailbox: standIn.webPort } });
}

run().catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
