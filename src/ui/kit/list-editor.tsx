import { ArrowDown, ArrowUp, X } from "lucide-react";
import type { ReactNode } from "react";

/** A list that grows and shrinks in place; where the order matters, each row goes up and down. */
export function ListEditor<Item>({
  label,
  items,
  keyOf,
  nameOf,
  onRemove,
  onSwap,
  disabled = false,
  empty,
  row,
  children,
}: {
  label: string;
  items: readonly Item[];
  keyOf: (item: Item, index: number) => string;
  /** How a row is called by its buttons. */
  nameOf: (item: Item) => string;
  onRemove: (index: number) => void;
  /** Exchanges a row with the one after it; without it the order is not the person's. */
  onSwap?: (index: number) => void;
  disabled?: boolean;
  empty?: ReactNode;
  row: (item: Item, index: number) => ReactNode;
  /** What adds a row. */
  children?: ReactNode;
}) {
  return (
    <div role="group" aria-label={label}>
      {items.length === 0 && empty && <p className="text-[13px] text-ink-soft">{empty}</p>}
      <ul>
        {items.map((item, i) => (
          <li key={keyOf(item, i)} className="flex items-center gap-1 py-0.5 text-[13px]">
            <div className="flex min-w-0 flex-1 items-center gap-2">{row(item, i)}</div>
            {!disabled && onSwap && (
              <>
                <RowButton
                  label={`${nameOf(item)} goes up`}
                  disabled={i === 0}
                  onPress={() => onSwap(i - 1)}
                >
                  <ArrowUp size={14} aria-hidden="true" />
                </RowButton>
                <RowButton
                  label={`${nameOf(item)} goes down`}
                  disabled={i === items.length - 1}
                  onPress={() => onSwap(i)}
                >
                  <ArrowDown size={14} aria-hidden="true" />
                </RowButton>
              </>
            )}
            {!disabled && (
              <RowButton label={`Take out ${nameOf(item)}`} onPress={() => onRemove(i)}>
                <X size={14} aria-hidden="true" />
              </RowButton>
            )}
          </li>
        ))}
      </ul>
      {!disabled && children}
    </div>
  );
}

function RowButton({
  label,
  disabled,
  onPress,
  children,
}: {
  label: string;
  disabled?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="button button-small button-quiet !px-1"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onPress}
    >
      {children}
    </button>
  );
}
