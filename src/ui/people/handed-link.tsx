"use client";
import { Button } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { Check, Copy, X } from "lucide-react";
import { useState } from "react";

/** A link that was just made: it is shown once. */
export interface Handed {
  token: string;
  until: number;
}

/** The link to hand over: shown once, because only a digest of it is kept. */
export function HandedLink({
  name,
  path = "welcome",
  does = "it sets their password once, and",
  handed,
  onClose,
}: {
  name: string;
  /** Where the link leads. */
  path?: "welcome" | "join";
  /** What it does, before the words that it ends. */
  does?: string;
  handed: Handed;
  onClose: () => void;
}) {
  const [copied, setCopied] = useState(false);
  const address = `${window.location.origin}/${path}/${handed.token}`;
  const copy = () =>
    navigator.clipboard.writeText(address).then(
      () => setCopied(true),
      () => setCopied(false),
    );
  return (
    <section
      role="status"
      aria-label={`Link for ${name}`}
      className="flex flex-wrap items-center gap-3 border-l-4 border-accent bg-accent-soft px-4 py-3"
    >
      <p className="w-full">
        Hand this link to <b>{name}</b>: {does} ends on{" "}
        {new Date(handed.until).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}. It
        is shown only now.
      </p>
      <TextInput
        className="min-w-0 flex-1 font-mono text-[12.5px]"
        readOnly
        aria-label="Link"
        value={address}
        onFocus={(e) => e.target.select()}
      />
      <Button onClick={() => void copy()}>
        {copied ? <Check size={16} aria-hidden="true" /> : <Copy size={16} aria-hidden="true" />}
        {copied ? "Copied" : "Copy"}
      </Button>
      <Button look="quiet" aria-label="I have handed it over" onClick={onClose}>
        <X size={16} aria-hidden="true" />
      </Button>
    </section>
  );
}
