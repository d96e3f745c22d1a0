/** A line that was high and is low now: what is ready for its next step waits to be pulled. */
export const ReadyMark = () => (
  <svg width="13" height="11" viewBox="0 0 13 11" aria-hidden="true" className="shrink-0">
    <path
      d="M0.5 2 H5 V8.5 H12.5"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeLinejoin="round"
    />
  </svg>
);
