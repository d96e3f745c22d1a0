import type { AddressInfo, Server } from "node:net";

/** Stand-ins are there for this machine alone. */
export const LOOPBACK = "127.0.0.1";
const MOST_PORTS = 200;

/** Listens on the port that was asked for; otherwise on the first that is free. */
export async function listen(
  server: Server,
  wanted: number | null,
  first: number,
): Promise<number> {
  for (let port = wanted ?? first; ; port++) {
    try {
      await new Promise<void>((resolve, reject) => {
        server.once("error", reject);
        server.listen(port, LOOPBACK, () => {
          server.off("error", reject);
          resolve();
        });
      });
      return (server.address() as AddressInfo).port;
    } catch (error) {
      if (
        wanted !== null ||
        (error as NodeJS.ErrnoException).code !== "EADDRINUSE" ||
        port > first + MOST_PORTS
      )
        throw error;
    }
  }
}
