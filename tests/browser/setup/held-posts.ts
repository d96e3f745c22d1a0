import type { HTTPRequest } from "puppeteer-core";
import type { Person } from "./person";

/** What somebody's page posts to one address, held back until it is let go. */
export interface HeldPosts {
  held: HTTPRequest[];
  /** Waits until something is held. */
  first: () => Promise<void>;
  /** Lets go what is held, and all that comes from now on. */
  letGo: () => Promise<void>;
  /** Ends the watch over the page's requests. */
  stop: () => Promise<void>;
}

/** Holds back what a page posts to addresses that end so. */
export async function holdPosts({ page }: Person, addressEnd: string): Promise<HeldPosts> {
  const held: HTTPRequest[] = [];
  let holding = true;
  const onRequest = (request: HTTPRequest) => {
    const meant = request.method() === "POST" && request.url().endsWith(addressEnd);
    if (holding && meant) held.push(request);
    else void request.continue();
  };
  await page.setRequestInterception(true);
  page.on("request", onRequest);
  return {
    held,
    first: async () => {
      while (held.length === 0) await new Promise((resolve) => setTimeout(resolve, 50));
    },
    letGo: async () => {
      holding = false;
      for (const request of held.splice(0)) await request.continue();
    },
    stop: async () => {
      page.off("request", onRequest);
      await page.setRequestInterception(false);
    },
  };
}
