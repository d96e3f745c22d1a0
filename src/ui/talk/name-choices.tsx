import type { Nameable } from "@/core/talk/named";
import { Initials } from "@/ui/kit/initials";

/** Whom the beginning of a name can mean. */
export function NameChoices({
  id,
  choices,
  at,
  onTake,
}: {
  id: string;
  choices: readonly Nameable[];
  /** The one that is taken by Enter. */
  at: number;
  onTake: (name: string) => void;
}) {
  return (
    <ul
      id={id}
      role="listbox"
      aria-label="People and teams"
      className="name-choices"
      hidden={choices.length === 0}
    >
      {choices.map(({ id: key, kind, name }, i) => (
        <li
          key={`${kind} ${key}`}
          id={`${id}-${i}`}
          role="option"
          aria-selected={i === at}
          // Before the field loses the focus.
          onMouseDown={(event) => {
            event.preventDefault();
            onTake(name);
          }}
        >
          <Initials name={name} size={20} />
          {name}
          {kind === "team" && <span className="text-ink-soft">team</span>}
        </li>
      ))}
    </ul>
  );
}
