"use client";
import { useEffect, useRef, useState } from "react";
import { followedLook, sameLook, type Look } from "@/core/view/look";
import { tellDone } from "@/ui/kit/notice";

/**
 * What somebody looks at: as they change it, and as the view that it began with is changed by others
 * in what they left as it was. That is said.
 * @param kept the look of the view, as it is now
 */
export function useFollowedLook(first: Look, kept: Look, name: string | undefined) {
  const [look, putLook] = useState(first);
  const [base, setBase] = useState(kept);
  if (base !== kept) {
    setBase(kept);
    putLook(followedLook(base, kept, look));
  }
  const known = useRef(kept);
  const own = useRef(false);
  useEffect(() => {
    const before = known.current;
    if (before === kept) return;
    known.current = kept;
    const mine = own.current;
    own.current = false;
    if (name !== undefined && !mine && !sameLook(before, kept))
      tellDone(`“${name}” was changed by somebody else. What you did not change follows.`);
  }, [kept, name]);
  /** The next change of the view is the reader's own. */
  const sayOwn = () => {
    own.current = true;
  };
  return { look, putLook, sayOwn };
}
