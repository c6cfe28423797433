/** Letters of the Check desk. A figure holds no letters, so that in a figure's field a letter is a way somewhere else. */
import { useLayoutEffect, useRef } from "react";

/** Whether a key pressed here may be a letter of the desk. With shift it is a word of the spoken line. */
export function isFree(event: KeyboardEvent, shifted = false): boolean {
  if (event.defaultPrevented || event.shiftKey !== shifted || event.ctrlKey || event.metaKey || event.altKey)
    return false;
  if (event.target instanceof HTMLTextAreaElement) return false; // words, and several lines of them
  const field = event.target instanceof HTMLInputElement ? event.target : null;
  if (field) return field.inputMode === "decimal" || field.type === "radio";
  return !(event.target instanceof HTMLElement && event.target.closest('[role="menu"], [role="listbox"]'));
}

/** Hear keys from the moment the desk is drawn: heard only after it is painted, a key pressed on sight falls between. */
export function useKeydown(hear: (event: KeyboardEvent) => void, capture = false) {
  const latest = useRef(hear);
  useLayoutEffect(() => {
    latest.current = hear;
  });
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => latest.current(event);
    window.addEventListener("keydown", listen, { capture });
    return () => window.removeEventListener("keydown", listen, { capture });
  }, [capture]);
}

/** Letters that do something on this desk. */
export function useLetters(acts: Record<string, () => void>) {
  useKeydown((event) => {
    const act = isFree(event) ? acts[event.key.toLowerCase()] : undefined;
    if (!act) return;
    event.preventDefault();
    if (event.target instanceof HTMLInputElement) event.target.blur(); // leaving keeps what was typed
    act();
  });
}
