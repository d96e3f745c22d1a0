import type { Server } from "node:net";

/*
 * A process of the product and the one that started it: it tells on which ports it listens once it
 * does, and ends when it is told to, or when whoever started it is gone. Started by hand it has
 * nobody to tell.
 */

/** Says which ports it has taken, before it is ready. */
export function tellHeld(ports: Readonly<Record<string, number>>): void {
  process.send?.({ held: ports });
}

/** Says that it is ready, and on which ports. */
export function tellReady(ports: Readonly<Record<string, number>>): void {
  process.send?.({ ready: ports });
}

/** Runs once, when the process is told to stop or its head is gone. */
export function onStop(stop: () => void): void {
  let stopping = false;
  const once = () => {
    if (stopping) return;
    stopping = true;
    stop();
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, once);
  if (!process.send) return;
  process.on("disconnect", once);
  // Listening for that alone keeps no process from ending.
  process.channel?.unref();
}

const MOST_PORTS = 200;

/**
 * Listens on a port and holds it. A port that is only a wish gives way to the next one that is
 * free.
 * @param fixed whether it must be this one; then it is tried again for a moment, because the one
 *   before may still be letting go of it
 * @returns the port
 */
export async function holdPort(
  server: Server,
  wanted: number,
  host: string,
  fixed: boolean,
): Promise<number> {
  for (let attempt = 0; ; attempt++) {
    const port = fixed ? wanted : wanted + attempt;
    try {
      await new Promise<void>((resolve, reject) => {
        server.once("error", reject);
        server.listen(port, host, () => {
          server.off("error", reject);
          resolve();
        });
      });
      return (server.address() as { port: number }).port;
    } catch (error) {
      if (
        (error as NodeJS.ErrnoException).code !== "EADDRINUSE" ||
        attempt >= (fixed ? 20 : MOST_PORTS)
      )
        throw error;
      if (fixed) await new Promise((resolve) => setTimeout(resolve, 250));
    }
  }
}
