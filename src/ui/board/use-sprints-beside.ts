"use client";
import { keptHere } from "@/ui/kit/kept-here";

const kept = keptHere("sprints-beside-board");
const OPEN = "open";

/** Whether the sprints stand beside boards on this machine. */
export const useSprintsBeside = (): boolean => kept.useKept() === OPEN;

export const turnSprintsBeside = (): void => kept.write(kept.read() === OPEN ? null : OPEN);
