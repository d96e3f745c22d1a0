/** The product's mark: one zigzag of a value stream. */
export function Mark({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size * 0.68} viewBox="0 0 28 19" fill="none" aria-hidden="true">
      <path
        d="M2 16.5 H6 L11 2.5 H17 L22 16.5 H26"
        stroke="var(--accent)"
        strokeWidth="3.2"
        strokeLinecap="square"
        strokeLinejoin="round"
      />
    </svg>
  );
}
