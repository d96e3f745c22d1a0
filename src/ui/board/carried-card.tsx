import { DragOverlay } from "@dnd-kit/core";
import type { Card } from "@/core/board/card";

/** The card that the pointer carries. */
export function CarriedCard({ card }: { card: Card | undefined }) {
  return (
    <DragOverlay dropAnimation={{ duration: 140, easing: "ease-out" }}>
      {card && (
        <div className="card rotate-1 shadow-lg" data-compact="true">
          <span className="key">{card.key}</span>
          <p className="card-title">{card.title}</p>
        </div>
      )}
    </DragOverlay>
  );
}
