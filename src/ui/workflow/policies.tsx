"use client";

import { v7 as newId } from "uuid";
import type { Policy } from "@/core/workflow/state";
import { Button } from "@/ui/kit/button";
import { CommitText } from "@/ui/kit/commit-input";
import { TextInput } from "@/ui/kit/field";
import { X } from "lucide-react";
import { useState } from "react";

/** Points that people tick on the item. */
export function Policies({
  title,
  policies,
  mayEdit,
  onChange,
}: {
  title: string;
  policies: Policy[];
  mayEdit: boolean;
  onChange: (policies: Policy[]) => void;
}) {
  const [text, setText] = useState("");
  const add = () => {
    if (text.trim()) onChange([...policies, { id: newId(), text: text.trim() }]);
    setText("");
  };
  if (!mayEdit && policies.length === 0) return null;
  return (
    <fieldset>
      <legend className="text-[12px] font-semibold">{title}</legend>
      <ul>
        {policies.map((p) => (
          <li key={p.id} className="flex items-center gap-1">
            <CommitText
              value={p.text}
              label={`${title}: ${p.text}`}
              max={200}
              disabled={!mayEdit}
              required
              onCommit={(next) =>
                onChange(policies.map((x) => (x.id === p.id ? { ...x, text: next } : x)))
              }
            />
            {mayEdit && (
              <Button
                look="quiet"
                small
                className="!px-1"
                aria-label={`Take out: ${p.text}`}
                onClick={() => onChange(policies.filter((x) => x.id !== p.id))}
              >
                <X size={13} aria-hidden="true" />
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <TextInput
          aria-label={title}
          placeholder="Add a point, e.g. “Somebody else has seen it”"
          maxLength={200}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={add}
          onKeyDown={(e) => e.key === "Enter" && (e.preventDefault(), add())}
        />
      )}
    </fieldset>
  );
}
