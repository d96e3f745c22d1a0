"use client";
import { shipContract } from "@/core/ship/contract";
import { copyText } from "@/ui/kit/copy-text";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";

/** By which key it is copied. */
export const BRANCH_KEY = "k";

/** Puts the name of an item's next branch on the clipboard. */
export async function copyBranchName(key: string): Promise<void> {
  try {
    const { branchName } = await ask(shipContract.branchName, { params: { key } });
    await copyText(branchName, branchCopied(branchName));
  } catch (error) {
    tellProblem(error);
  }
}

export const branchCopied = (name: string): string => `${name} is on the clipboard.`;
