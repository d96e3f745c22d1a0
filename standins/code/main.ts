import { startCodeStandIn } from "./server";

/**
 * Runs the code host until it is told to stop, or whoever started it is gone. Where the product is may
 * be told later, when it is open.
 */
async function run(): Promise<void> {
  const { CODE_PORT, CODE_PORT_WISHED, CODE_ROOT, CODE_SECRET, APP_URL } = process.env;
  if (!CODE_ROOT || !CODE_SECRET)
    throw new Error("CODE_ROOT says where repositories are, CODE_SECRET who may come in.");
  const settings = { root: CODE_ROOT, secret: CODE_SECRET, product: APP_URL ?? null };
  const startAt = (port: string | undefined) =>
    startCodeStandIn({ ...settings, port: port ? Number(port) : null });
  const standIn = CODE_PORT
    ? await startAt(CODE_PORT)
    : await startAt(CODE_PORT_WISHED).catch(() => startAt(undefined));
  console.log(`the code host is at ${standIn.address}`);
  const stop = () => {
    // Whoever still talks is not waited for.
    setTimeout(() => process.exit(0), 1_500);
    void standIn.close().then(() => process.exit(0));
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, stop);
  process.on("message", (told: { product?: string; pipeline?: string }) => {
    if (told.product) standIn.productIsAt(told.product);
    if (told.pipeline) standIn.pipelineIsAt(told.pipeline);
  });
  if (process.send) process.on("disconnect", stop);
  process.send?.({ ready: { code: standIn.port } });
}

run().catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
