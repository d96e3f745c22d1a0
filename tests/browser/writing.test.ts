import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { twoPages } from "./setup/pdf";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

const PICTURE = path.join(__dirname, "../reference/pictures/small.png");

let ines: Person;
let key: string;

beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/flow");
  await ines.press("New item");
  await ines.fill("What is to be done?", "The rail by the ladder");
  await ines.press("Add to the backlog");
  await ines.reads(/TIX-\d+ is at the end of the backlog/);
  key = /(TIX-\d+) is at the end/.exec(await ines.text("body"))![1];
  await ines.open(`/p/TIX/items/${key}`);
});

const area = 'textarea[aria-label="Description"]';
const valueOf = (selector: string) =>
  ines.page.$eval(selector, (e) => (e as HTMLTextAreaElement).value);

/** Puts a file to the item, as if it had been chosen. */
async function putFile(file: string): Promise<void> {
  const input = await ines.page.$('section[aria-label="Files"] input[type=file]');
  await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
  await ines.reads(path.basename(file), 'section[aria-label="Files"]');
}

test("a description is written with signs, goes on with its lists, and takes a file that is put in", async () => {
  await ines.press("Write description");
  await ines.page.type(area, "The rail is loose");
  await ines.page.$eval(area, (e) => (e as HTMLTextAreaElement).setSelectionRange(4, 8));
  await ines.click('.writing-tools button[aria-label="Strong"]');
  expect(await valueOf(area)).toContain("**rail**");
  // As somebody typed it: it can be undone.
  await ines.page.keyboard.down("Control");
  await ines.page.keyboard.press("z");
  await ines.page.keyboard.up("Control");
  expect(await valueOf(area)).not.toContain("**");
  await ines.page.$eval(area, (e) => {
    const { length } = (e as HTMLTextAreaElement).value;
    (e as HTMLTextAreaElement).setSelectionRange(length, length);
  });
  await ines.page.keyboard.press("Enter");
  await ines.page.keyboard.type("- at the foot");
  await ines.page.keyboard.press("Enter");
  await ines.page.keyboard.type("at the head");
  expect(await valueOf(area)).toMatch(/- at the foot\n- at the head$/);
  const [chooser] = await Promise.all([
    ines.page.waitForFileChooser(),
    ines.click('.writing-tools button[aria-label="Put a file in"]'),
  ]);
  await chooser.accept([PICTURE]);
  await ines.page.waitForFunction(
    (selector: string) =>
      document.querySelector<HTMLTextAreaElement>(selector)?.value.includes("![small.png]"),
    {},
    area,
  );
  await ines.press("Save text");
  await ines.page.waitForSelector(".words li");
  await ines.page.waitForSelector('.words img[alt="small.png"]');
  // Room is kept for it before it is there: nothing below it moves when it comes.
  const room = await ines.page.$eval(
    '.words img[alt="small.png"]',
    (e) => (e as HTMLImageElement).style.aspectRatio,
  );
  expect(room).toMatch(/^\d+ \/ \d+$/);
});

test("a remark is put on a place of a picture, opens a thread there, and leads back to it", async () => {
  await ines.click('button[aria-label="Show small.png"]');
  await ines.page.waitForSelector(".file-picture");
  await ines.press("Remark on a place");
  const picture = (await (await ines.page.$(".spots-on"))!.boundingBox())!;
  await ines.page.mouse.click(picture.x + picture.width * 0.25, picture.y + picture.height * 0.5);
  await ines.page.focus(".spot[data-new]");
  await ines.page.keyboard.press("ArrowRight");
  await ines.page.waitForFunction(() => {
    const left = parseFloat(document.querySelector<HTMLElement>(".spot[data-new]")!.style.left);
    return left > 25 && left < 29;
  });
  await ines.fill("Write a remark on this place", "It is loose here.");
  await ines.press("Put it there");
  await ines.page.waitForSelector('.spot[aria-label="Remark 1, by Ines Dahl"]');
  await ines.reads("1 remark", 'section[aria-label="Files"]');
  await ines.reads("place 1 on small.png", ".comment");
  await ines.open(`/p/TIX/items/${key}`);
  await ines.press("place 1 on small.png");
  await ines.page.waitForSelector('.spot[aria-label="Remark 1, by Ines Dahl"]');
  await ines.click('.spot[aria-label="Remark 1, by Ines Dahl"]');
  await ines.page.waitForSelector(".comment[data-named]");
});

test("a document is shown in place, page by page, with its remarks by page", async () => {
  const folder = mkdtempSync(path.join(tmpdir(), "zigzag-pages-"));
  const file = path.join(folder, "plan.pdf");
  writeFileSync(file, twoPages());
  await putFile(file);
  await ines.click('button[aria-label="Show plan.pdf"]');
  await ines.page.waitForSelector('canvas[aria-label="Page 1 of plan.pdf"]');
  await ines.reads("1 of 2", 'section[aria-label="Files"]');
  await ines.press("Next page");
  await ines.page.waitForSelector('canvas[aria-label="Page 2 of plan.pdf"]');
  // The second page is all black in its upper half: it was drawn, not only made room for.
  await ines.page.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>("canvas.file-page")!;
    const drawn = canvas.getContext("2d")!;
    const at = (part: number) =>
      drawn.getImageData(canvas.width / 2, Math.floor(canvas.height * part), 1, 1).data[0];
    return at(0.25) < 20 && at(0.75) > 235;
  });
  await ines.press("Remark on a place");
  await ines.fill("Write a remark on this place", "What is this?");
  await ines.press("Put it there");
  await ines.reads("place 1 on plan.pdf, page 2", ".comment");
  await ines.press("Page before");
  await ines.page.waitForFunction(() => !document.querySelector(".spots-on:has(canvas) .spot"));
  const broken = path.join(folder, "broken.pdf");
  writeFileSync(broken, "%PDF-1.4\nnothing of the kind");
  await putFile(broken);
  await ines.click('button[aria-label="Show broken.pdf"]');
  await ines.reads("broken.pdf cannot be shown here. Save it to read it.");
});
