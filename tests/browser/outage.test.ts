import { ownCluster } from "../server/setup/own-cluster";
import { startApplication, type Application } from "./setup/application";
import { givenBrowser } from "./setup/person";

const browser = givenBrowser();

let cluster: Awaited<ReturnType<typeof ownCluster>>;
let app: Application;
beforeAll(async () => {
  cluster = await ownCluster();
  app = await startApplication(cluster.url);
});
afterAll(async () => {
  await app.stop();
  cluster.remove();
});

test("the database goes away under an open board: the person is told, nothing is lost, and work goes on by itself", async () => {
  const noor = await browser.person(app.address, "Noor Bakri");
  await noor.open("/p/TIX/flow");
  const key = await noor.page.$eval('[role=list][aria-label$="Ready to pull"] [data-key]', (card) =>
    card.getAttribute("data-key")!,
  );
  cluster.kill();
  await noor.reads("The database is away for a moment.", "footer");
  expect((await fetch(`${app.address}/api/health`)).status).toBe(503);
  const page = await fetch(`${app.address}/p/TIX/flow`, { headers: { accept: "text/html" } });
  expect([page.status, page.headers.get("retry-after")]).toEqual([503, "2"]);
  expect(await page.text()).toContain("The database cannot be reached just now.");
  // A move made meanwhile is tried a few times, then slides back and says so; the card is still
  // there.
  await noor.focusCard(key);
  await noor.keys("[");
  await noor.reads("The database cannot be reached just now.");
  await noor.reads("Nothing was lost and nothing was stored.");
  await noor.keys("Escape");
  await noor.waitForPlace(key, "Ready to pull");
  cluster.start();
  await noor.page.waitForFunction(() => !document.querySelector("footer [role=status]"), {
    timeout: 30_000,
  });
  await noor.focusCard(key);
  await noor.keys("[");
  await noor.page.waitForFunction(
    (k: string) => !document.querySelector(`[data-key="${k}"]`),
    {},
    key,
  );
  expect(await (await fetch(`${app.address}/api/health`)).json()).toMatchObject({ database: "up" });
});
