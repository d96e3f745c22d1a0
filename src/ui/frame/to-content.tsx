/** The first stop of the Tab key: past the frame. */
export const ToContent = () => (
  <a
    href="#main"
    className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
  >
    To the content
  </a>
);
