import { startPipelineStandIn } from "./server";

/**
 * Runs the pipeline until it is told to stop, or whoever started it is gone. Where the product is may be
 * told later, when it is open.
 */
async function run(): Promise<void> {
  const { PIPELINE_PORT, PIPELINE_PORT_WISHED, PIPELINE_ROOT, PIPELINE_SECRET, CODE_URL, APP_URL } =
    process.env;
  if (!PIPELINE_ROOT || !PIPELINE_SECRET || !CODE_URL)
    throw new Error("PIPELINE_ROOT, PIPELINE_SECRET and CODE_URL have to be said.");
  const settings = {
    ...{ root: PIPELINE_ROOT, secret: PIPELINE_SECRET, code: CODE_URL },
    product: APP_URL ?? null,
  };
  const startAt = (port: string | undefined) =>
    startPipelineStandIn({ ...settings, port: port ? Number(port) : null });
  const standIn = PIPELINE_PORT
    ? await startAt(PIPELINE_PORT)
    : await startAt(PIPELINE_PORT_WISHED).catch(() => startAt(undefined));
  console.log(`the pipeline is at ${standIn.address}`);
  const stop = () => {
    // A script that still runs is not waited for: it begins anew the next time.
    setTimeout(() => process.exit(0), 1_500);
    void standIn.close().then(() => process.exit(0));
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, stop);
  process.on("message", (told: { product?: string }) => {
    if (told.product) standIn.productIsAt(told.product);
  });
  if (process.send) process.on("disconnect", stop);
  process.send?.({ ready: { pipeline: standIn.port } });
}

run().catch((error: Error) => {
  console.error(error.message);
  process.exit(1);
});
