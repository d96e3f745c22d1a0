import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { readCloudEvents } from "@/core/formats/cloud-event";
import { enterSource, takeEvents } from "@/server/events/take";

/** The product's door for events, as its route is, without the rest of it. */
export async function openProductDoor() {
  /** While it is away the product answers nothing. */
  let away = false;
  const door = createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on("data", (part: Buffer) => parts.push(part));
    request.on("end", () => {
      if (away) return void response.destroy();
      const body = Buffer.concat(parts).toString("utf8");
      const header = (name: string) => String(request.headers[name] ?? "");
      const headers = {
        id: header("webhook-id"),
        timestamp: header("webhook-timestamp"),
        signature: header("webhook-signature"),
      };
      const sourceId = request.url!.split("/").at(-1)!;
      enterSource({ sourceId, headers, body })
        .then(async (entered) => {
          if (entered.kind !== "source") throw new Error(entered.kind);
          await takeEvents(entered, readCloudEvents(header("content-type"), body));
          response.writeHead(202).end("taken");
        })
        .catch((error: Error) => response.writeHead(400).end(error.message));
    });
  });
  await new Promise<void>((resolve) => door.listen(0, "127.0.0.1", resolve));
  const { port } = door.address() as AddressInfo;
  return {
    addressOf: (sourceId: string) => `http://127.0.0.1:${port}/api/events/${sourceId}`,
    goAway: (gone: boolean) => (away = gone),
    close: () => new Promise((resolve) => door.close(resolve)),
  };
}
