import type { ReactNode } from "react";

/** What a note is about: something to know, to look at, that went wrong, or that is done. */
export type NoteKind = "done" | "look" | "problem" | "plain";

const EDGES: Record<NoteKind, string> = {
  plain: "border-line-strong bg-well",
  done: "border-accent bg-accent-soft",
  look: "border-signal bg-signal-soft",
  problem: "border-alarm bg-alarm-soft",
};

/** Words that stand where they belong, with an edge that says of what kind they are. */
export function Note({
  kind = "plain",
  className = "",
  children,
}: {
  kind?: NoteKind;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div
      role={kind === "problem" ? "alert" : "status"}
      className={`border-l-[3px] px-3 py-2 text-[13px] ${EDGES[kind]} ${className}`}
    >
      {children}
    </div>
  );
}

/** What went wrong with a form, in its last line before the buttons. */
export function FormProblem({ children }: { children: ReactNode }) {
  if (!children) return null;
  return (
    <p role="alert" className="text-[13px] font-semibold text-alarm">
      {children}
    </p>
  );
}
