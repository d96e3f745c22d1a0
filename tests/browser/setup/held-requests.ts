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

/**
 * Holds back the answers to what a page reads from addresses with these words in them: the server has
 * answered, and the page hears it late.
 */
export async function holdAnswers({ page }: Person, words: string) {
  const held: (() => Promise<void>)[] = [];
  let holding = true;
  const onRequest = async (request: HTTPRequest) => {
    const meant = holding && request.method() === "GET" && request.url().includes(words);
    if (!meant) return request.continue();
    const cookies = await page.browserContext().cookies();
    const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join("; ");
    const answer = await fetch(request.url(), { headers: { cookie } });
    const body = await answer.text();
    held.push(() => request.respond({ status: 200, contentType: "application/json", body }));
  };
  await page.setRequestInterception(true);
  page.on("request", onRequest);
  return {
    first: async () => {
      while (held.length === 0) await new Promise((resolve) => setTimeout(resolve, 50));
    },
    letGo: async () => {
      holding = false;
      for (const respond of held.splice(0)) await respond();
    },
    stop: async () => {
      page.off("request", onRequest);
      await page.setRequestInterception(false);
    },
  };
}
