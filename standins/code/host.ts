import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import {
  branchTold,
  changeTold,
  pushTold,
  reviewTold,
  tagTold,
  type ChangeFacts,
  type Place,
} from "./events";
import {
  branchesOf,
  commitsOf,
  contains,
  countBehind,
  folderOf,
  MAIN,
  mergedTree,
  mergeInto,
  sizeBetween,
  tagged,
} from "./repository";
import type { Sender } from "../sender";
import type { HostChange, HostMemory, HostPerson, HostReview } from "./state";

/** What somebody asked for cannot be done, in words for them. */
export class HostRefusal extends Error {}

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** The code host: what is done in it, and what it tells of that. */
export class CodeHost {
  /** By repository: what is done one after the other. */
  private readonly lines = new Map<string, Promise<unknown>>();

  constructor(
    private readonly memory: HostMemory,
    private readonly sender: Sender,
    /** Its own address, for links. */
    readonly address: string,
  ) {}

  folder(repository: string): string {
    const folder = folderOf(this.memory.root, repository);
    if (!folder) throw new HostRefusal(`There is no repository ${repository}.`);
    return folder;
  }

  /** Does something in a repository while nothing else is done there. */
  alone<T>(repository: string, act: () => Promise<T>): Promise<T> {
    const before = this.lines.get(repository) ?? Promise.resolve();
    const mine = before.then(act, act);
    this.lines.set(
      repository,
      mine.catch(() => {}),
    );
    return mine;
  }

  /** A new token of somebody; it is told this once, and ends those that they had. */
  makeToken(person: HostPerson): string {
    const token = randomBytes(24).toString("base64url");
    this.endTokens(person);
    this.memory.state.tokens.push({ hash: hashOf(token), person, madeAt: Date.now() });
    this.memory.keep();
    return token;
  }

  endTokens({ mail }: HostPerson): void {
    const { state } = this.memory;
    state.tokens = state.tokens.filter(({ person }) => person.mail !== mail);
    this.memory.keep();
  }

  /** Whose token it is; null where it is nobody's. */
  personOf(token: string): HostPerson | null {
    const given = Buffer.from(hashOf(token));
    const found = this.memory.state.tokens.find(({ hash }) =>
      timingSafeEqual(Buffer.from(hash), given),
    );
    return found?.person ?? null;
  }

  /** Tells what a push did, from how the branches stood before it. */
  async pushed(
    repository: string,
    before: ReadonlyMap<string, string>,
    by: HostPerson,
  ): Promise<void> {
    const folder = this.folder(repository);
    const after = await branchesOf(folder);
    const place = this.place(repository);
    const told: object[] = [];
    for (const [branch, head] of after) {
      const old = before.get(branch);
      if (old === head) continue;
      if (old === undefined) told.push(branchTold(place, branch, "created", by));
      const commits = await commitsOf(folder, { heads: [head], without: [...before.values()] });
      const forced = old !== undefined && !(await contains(folder, head, old));
      const main = branch === MAIN;
      told.push(...pushTold(place, { branch, main, head, forced, by, commits }));
      const change = this.memory.openChangeOf(repository, branch);
      if (change) change.head = head;
    }
    for (const branch of before.keys())
      if (!after.has(branch)) told.push(branchTold(place, branch, "deleted", by));
    const mainMoved = after.get(MAIN) !== before.get(MAIN);
    for (const change of this.memory.state.changes) {
      if (change.repository !== repository || change.status !== "open") continue;
      if (!mainMoved && before.get(change.branch) === after.get(change.branch)) continue;
      told.push(await this.standing(change, by));
    }
    this.sender.tell(repository, told);
  }

  /** How an open change stands now; merged where somebody pushed it to main by hand. */
  private async standing(change: HostChange, by: HostPerson): Promise<object> {
    const folder = this.folder(change.repository);
    const main = (await branchesOf(folder)).get(MAIN);
    const place = this.place(change.repository);
    if (main && main !== change.head && (await contains(folder, main, change.head))) {
      Object.assign(change, { status: "merged", endedAt: Date.now(), mergedAs: main });
      return changeTold(place, change, "merged", { by, facts: null });
    }
    return changeTold(place, change, "updated", { by, facts: await this.facts(change) });
  }

  /** Tells of every open change how it stands. */
  async tellHowAllStands(): Promise<void> {
    this.memory.state.owesNews = false;
    const open = this.memory.state.changes.filter(({ status }) => status === "open");
    for (const change of open)
      this.sender.tell(change.repository, [await this.standing(change, change.author)]);
    this.memory.keep();
  }

  async facts(change: HostChange): Promise<ChangeFacts> {
    const folder = this.folder(change.repository);
    const main = (await branchesOf(folder)).get(MAIN);
    if (!main) throw new HostRefusal("There is no main branch to merge into yet.");
    const [size, behind, tree] = await Promise.all([
      sizeBetween(folder, main, change.head),
      countBehind(folder, change.head, main),
      mergedTree(folder, main, change.head),
    ]);
    return { ...size, behind, mergesCleanly: tree !== null };
  }

  /** Proposes to merge a branch. */
  async open(
    repository: string,
    { branch, title, by }: { branch: string; title: string; by: HostPerson },
  ): Promise<HostChange> {
    const folder = this.folder(repository);
    const branches = await branchesOf(folder);
    const [head, main] = [branches.get(branch), branches.get(MAIN)];
    if (!head) throw new HostRefusal(`There is no branch ${branch}.`);
    if (!main) throw new HostRefusal("There is no main branch to merge into yet.");
    if (branch === MAIN) throw new HostRefusal("Main is what changes are merged into.");
    if (this.memory.openChangeOf(repository, branch))
      throw new HostRefusal("This branch is proposed already.");
    if (await contains(folder, main, head))
      throw new HostRefusal("Main has all of this branch already.");
    const numbers = this.memory.state.changes
      .filter((one) => one.repository === repository)
      .map(({ number }) => number);
    const change: HostChange = {
      ...{ repository, number: Math.max(0, ...numbers) + 1, branch, head, author: by },
      ...{ title: title.trim().slice(0, 300) || branch, status: "open", openedAt: Date.now() },
      ...{ endedAt: null, mergedAs: null, reviews: [] },
    };
    this.memory.state.changes.push(change);
    const facts = await this.facts(change);
    this.sender.tell(repository, [
      changeTold(this.place(repository), change, "created", { by, facts }),
    ]);
    return change;
  }

  /** Says what somebody thinks of a change. */
  async review(
    change: HostChange,
    { by, verdict, words }: Pick<HostReview, "by" | "verdict" | "words">,
  ): Promise<void> {
    mustBeOpen(change);
    if (by.mail === change.author.mail)
      throw new HostRefusal("Whoever wrote a change does not review it: ask somebody else.");
    if (verdict === "sent back" && words.trim() === "")
      throw new HostRefusal("Say what has to be different.");
    const review: HostReview = {
      ...{ by, verdict, words: words.trim().slice(0, 2_000), at: Date.now(), head: change.head },
    };
    change.reviews.push(review);
    this.sender.tell(change.repository, [
      reviewTold(this.place(change.repository), change, review),
    ]);
  }

  /** Merges a change into main. */
  async merge(change: HostChange, { by, message }: { by: HostPerson; message: string }) {
    mustBeOpen(change);
    const folder = this.folder(change.repository);
    const before = await branchesOf(folder);
    const main = before.get(MAIN)!;
    const tree = await mergedTree(folder, main, change.head);
    if (tree === null)
      throw new HostRefusal(
        "It does not merge cleanly: bring main into the branch and push it again.",
      );
    const words = `Merge ${change.branch}: ${change.title}\n\n${message.trim()}`.trim();
    const mergedAs = await mergeInto(folder, { main, head: change.head, tree, message: words, by });
    Object.assign(change, { status: "merged", endedAt: Date.now(), mergedAs });
    this.sender.tell(change.repository, [
      changeTold(this.place(change.repository), change, "merged", { by, facts: null }),
    ]);
    await this.pushed(change.repository, before, by);
  }

  /** Gives a change up; its branch stays. */
  async abandon(change: HostChange, by: HostPerson): Promise<void> {
    mustBeOpen(change);
    Object.assign(change, { status: "abandoned", endedAt: Date.now() });
    this.sender.tell(change.repository, [
      changeTold(this.place(change.repository), change, "abandoned", { by, facts: null }),
    ]);
  }

  /** Puts a tag to a commit; where it is there already nothing is different, and that is told again. */
  async tag(
    repository: string,
    { tag, commit, by }: { tag: string; commit: string; by: HostPerson },
  ): Promise<void> {
    const folder = this.folder(repository);
    await this.alone(repository, async () => {
      const there = await tagged(folder, { tag, commit });
      if (there === "elsewhere") throw new HostRefusal(`${tag} is the tag of another commit.`);
      if (there === "no commit") throw new HostRefusal("There is no such commit.");
    });
    this.sender.tell(repository, [tagTold(this.place(repository), { tag, commit, by })]);
  }

  private place(repository: string): Place {
    return { host: this.address, repository };
  }
}

function mustBeOpen({ status }: HostChange): void {
  if (status !== "open")
    throw new HostRefusal(`It is ${status === "merged" ? "merged" : "given up"} already.`);
}
