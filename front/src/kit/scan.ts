/** Keys that open the tag line: `/` outside a text, the pad's divide key anywhere, and a scanned code, which comes as a burst. */

import { isText, type TextField } from "./texts";

/** A person's keys lie further apart than a scanner's. */
const BURST_MS = 45;
const SCANNED = /^\/\d{1,9}$/;

/** The line stands after this at the latest. */
const DRAWN_IN_MS = 3000;

/** Told to the open rung when one goes to another battery: what is typed whole is kept. */
export const LEAVE = "vane-leave";

export const TAG_FIELD = "tag-line";
const isTagField = (element: Element | null) =>
  element instanceof HTMLElement && element.dataset["field"] === TAG_FIELD;

/** Outside every text, menu and dialog. */
const isLetterFree = (target: EventTarget | null) =>
  !isText(target) && !(target instanceof Element && target.closest('[role="menu"], [role="listbox"], [role="dialog"]'));

/** A field for words, where a stroke is a sign like any other. */
const takesStrokes = (target: EventTarget | null) => isText(target) && target.inputMode !== "decimal";

interface Heard {
  /** Open the line, with a tag where one was scanned. */
  open: (tag: string) => void;
  /** A letter outside any text. Returns whether it meant something. */
  letter: (key: string) => boolean;
}

/** Listen until called back. Digits by themselves never are a tag. */
export function listenForTags({ open, letter }: Heard): () => void {
  let burst = "";
  let last = 0;
  let before: { field: TextField; text: string } | null = null;

  /** What is typed after `/` while the line is still being drawn; null once it stands. */
  let ahead: string | null = null;

  /** What was scanned, while its line is still being drawn; null once it stands. */
  let scanned: string | null = null;

  function hear(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (ahead !== null && isTagField(document.activeElement)) ahead = null;
    if (ahead !== null && (/^\d$/.test(event.key) || event.key === "Enter") && event.timeStamp - last < DRAWN_IN_MS) {
      stop(event);
      ahead += event.key === "Enter" ? "\n" : event.key;
      open(ahead);
      return;
    }
    const quick = event.timeStamp - last < BURST_MS;
    if (scanned !== null && isTagField(document.activeElement)) scanned = null;
    if (scanned !== null && event.key === "Enter" && event.timeStamp - last < DRAWN_IN_MS) {
      stop(event); // go, said before the line could take it; a second Enter of the scanner itself is none
      if (!quick) open(`${scanned}\n`);
      last = event.timeStamp;
      return;
    }
    last = event.timeStamp;
    if (event.key === "/") {
      burst = "/";
      const field = isText(event.target) ? event.target : null;
      before = field && { field, text: field.value };
      if (event.code !== "NumpadDivide" && takesStrokes(event.target)) return;
      stop(event);
      burst = ""; // the line takes it from here, wherever in the code it is drawn
      ahead = "";
      open("");
    } else if (burst && quick && /^\d$/.test(event.key)) burst += event.key;
    else if (burst && quick && event.key === "Enter" && SCANNED.test(burst)) {
      stop(event); // a scanner's own Enter: the battery is shown, a person says go
      if (before && document.activeElement === before.field) put(before.field, before.text);
      scanned = burst.slice(1);
      open(scanned);
      burst = "";
    } else {
      if (event.key.length === 1 || event.key === "Enter") burst = "";
      if (
        isLetterFree(event.target) &&
        event.key.length === 1 &&
        (!event.shiftKey || event.key === "?") &&
        letter(event.key)
      )
        event.preventDefault();
    }
  }
  window.addEventListener("keydown", hear, { capture: true });
  return () => window.removeEventListener("keydown", hear, { capture: true });
}

function stop(event: KeyboardEvent) {
  event.preventDefault();
  event.stopImmediatePropagation();
}

/** Give a field back what it held before the scanner wrote into it. */
function put(field: TextField, text: string) {
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field) as TextField, "value")?.set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}
