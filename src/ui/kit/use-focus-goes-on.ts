import { useRef } from "react";

/**
 * For a popover from which something else is opened: the focus goes on to that, and is not given
 * back to what opened the popover.
 */
export function useFocusGoesOn(): { goesOn: () => void; onReturnFocus: (event: Event) => void } {
  const isOn = useRef(false);
  return {
    goesOn: () => {
      isOn.current = true;
    },
    onReturnFocus: (event) => {
      if (isOn.current) event.preventDefault();
      isOn.current = false;
    },
  };
}
