/** Letters of the Check desk. A figure holds no letters, so that in a figure's field a letter is a way somewhere else. */
import type { RefObject } from "react";

type Acts = Record<string, () => void>;

/** Whether a key pressed here may be a letter of the desk. With shift it is a word of the spoken line. */
export function isFree(event: KeyboardEvent, shifted = false): boolean {
  if (event.defaultPrevented || event.shiftKey !== shifted || event.ctrlKey || event.metaKey || event.altKey)
    return false;
  const field = event.target instanceof HTMLInputElement ? event.target : null;
  if (field) return field.inputMode === "decimal" || field.type === "radio";
  return !(event.target instanceof HTMLElement && event.target.closest('[role="menu"], [role="listbox"]'));
}

/** Listen for letters until called back; what they do is read as they are pressed. */
export function onLetters(acts: RefObject<Acts>): () => void {
  function hear(event: KeyboardEvent) {
    if (!isFree(event)) return;
    const act = acts.current[event.key.toLowerCase()];
    if (!act) return;
    event.preventDefault();
    if (event.target instanceof HTMLInputElement) event.target.blur(); // leaving keeps what was typed
    act();
  }
  window.addEventListener("keydown", hear);
  return () => window.removeEventListener("keydown", hear);
}
