import puppeteer, { type Browser } from "puppeteer-core";

/**
 * Debian's Chromium without a window and without its own pages around ours: it starts sooner and
 * leaves more of the machine to what is looked at.
 */
export const launchBrowser = (): Promise<Browser> =>
  puppeteer.launch({
    executablePath: "/usr/bin/chromium-headless-shell",
    headless: "shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      // Letters stand where they do on a good screen.
      "--font-render-hinting=none",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
