"use client";
import { releaseContract } from "@/core/ship/release/contract";
import type { WithdrawBody } from "@/core/ship/release/withdrawal";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, problemWords, type Problem } from "@/ui/kit/request";

/** What is done with a release after it is out: it is tagged, taken back, and out after all. */
export function useReleaseAfter({
  of,
  name,
  readAgain,
}: {
  of: { key: string; release: string };
  name: string;
  readAgain: () => Promise<unknown>;
}) {
  /** Asks code hosts to tag it. @returns what was wrong; null where all took it */
  const tag = async (called: string, repositoryIds: string[]): Promise<string | null> => {
    try {
      const body = { name: called, in: repositoryIds };
      const { refused } = await ask(releaseContract.tag, { params: of, body });
      await readAgain();
      if (refused.length > 0)
        return refused.map(({ repository, why }) => `${repository}: ${why}`).join(" ");
      tellDone(`${called} is asked for; it stands here once it is there.`);
      return null;
    } catch (error) {
      return problemWords(problemOf(error));
    }
  };
  const setWithdrawn = async (body: WithdrawBody) => {
    const { moving } = await ask(releaseContract.withdraw, { params: of, body });
    await readAgain();
    return moving;
  };
  const isOutAfterAll = () =>
    setWithdrawn({ withdrawn: false, why: "", finished: "stays as it is", except: {} });
  /** Takes it back after it was out. @returns what was wrong; null where it is taken back */
  const withdraw = async (body: WithdrawBody): Promise<Problem | null> => {
    try {
      const moving = await setWithdrawn(body);
      tellDone(
        `${name} is taken back.` + (moving > 0 ? ` What becomes of ${moving} is on its way.` : ""),
        async () => void (await isOutAfterAll()),
      );
      return null;
    } catch (error) {
      return problemOf(error);
    }
  };
  const outAfterAll = async () => {
    try {
      await isOutAfterAll();
      tellDone(`${name} is out after all.`);
    } catch (error) {
      tellProblem(error);
    }
  };
  return { tag, withdraw, outAfterAll };
}
