import { useId, useState } from "react";

/** Whether the commits of a piece of work are shown, and by which id their list is known. */
export function useCommitsOpen() {
  const [open, setOpen] = useState(false);
  const list = useId();
  return { open, list, turn: () => setOpen(!open) };
}

export type CommitsOpen = ReturnType<typeof useCommitsOpen>;
