"use client";
import { useRef, useState } from "react";
import { NOTHING_FOLDED, turned, type Folds } from "@/core/view/folds";
import { viewContract } from "@/core/view/contract";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import type { LookHandle } from "@/ui/view/use-look";

/** What this person has folded away here; it is kept for them, on every machine. */
export function useFolds({ projectKey, view, look, views }: LookHandle, boardId: string) {
  const place = view?.id ?? look.board ?? boardId;
  const [here, setHere] = useState<{ place: string; folds: Folds } | null>(null);
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const [withAside, setWithAside] = useState(false);
  const folds = here?.place === place ? here.folds : (views.folds[place] ?? NOTHING_FOLDED);
  const put = (change: Partial<Folds>) => {
    const next = { ...folds, ...change };
    setHere({ place, folds: next });
    const body = { kind: "fold", place, folds: next } as const;
    // One after the other: what was said last is what stays.
    line.current = line.current
      .then(() => ask(viewContract.change, { params: { key: projectKey }, body }))
      .catch(tellProblem);
  };
  return {
    folds,
    foldLanes: (lanes: readonly string[]) => put({ lanes }),
    turnLane: (id: string) => put({ lanes: turned(folds.lanes, id) }),
    turnColumn: (id: string) => put({ columns: turned(folds.columns, id) }),
    hideColumn: (id: string) =>
      put({ hidden: [...folds.hidden, id], columns: folds.columns.filter((one) => one !== id) }),
    showColumns: () => put({ hidden: [] }),
    /** Whether columns are shown that nothing of now is in. */
    withAside,
    turnAside: () => setWithAside((on) => !on),
  };
}

export type FoldsHandle = ReturnType<typeof useFolds>;
