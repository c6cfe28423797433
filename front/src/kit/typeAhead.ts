/** Figures typed before their field is there are held, and typed into it as soon as it stands: nothing falls between. */

import { isText, type TextField } from "./texts";

let holders = 0;
let typing = false;
const held: string[] = [];

/** What is on its way: a field, or a whole desk. Until it stands, keys are its own. */
type Coming = "field" | "desk";
let coming: Coming | null = null;
let timer = 0;
/** A field may never come: then its keys are let go again. A desk comes, or says that it does not. */
const FIELD_COMES_IN_MS = 8000;
/** Figures that wait for their field while something else is done first. */
const WAIT_FOR_MS = 60_000;

export function expectField(what: Coming = "field") {
  noLongerExpected();
  coming = what;
  if (what === "field") timer = window.setTimeout(noField, FIELD_COMES_IN_MS);
}

function noLongerExpected() {
  window.clearTimeout(timer);
  coming = null;
}

/** It stands now: what was typed for it is typed into it. */
export function fieldStands() {
  noLongerExpected();
  void typeHeld();
}

/** It will not come. */
export function noField() {
  noLongerExpected();
  held.length = 0;
}

const FIGURE = /^[0-9.,]$/;
const HELD = /^([0-9.,]|Enter|Backspace)$/;
const LETTER = /^\p{L}$/u;
const holding = () => holders > 0 || coming !== null || typing;

/** A form that Enter keeps, with no figure in it: the look. */
const enterForm = () => document.querySelector<HTMLFormElement>("[data-open] form[data-enter-keeps]");

function hear(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  // What was typed before waits for its field: what comes after it waits behind it, so that the order holds.
  const waits = held.length > 0 && !isText(event.target);
  if (!holding() && !waits) return;
  const isLetter = LETTER.test(event.key) && (held.length > 0 || coming === "desk");
  if (!HELD.test(event.key) && !isLetter) return; // a letter with nothing before it is a way somewhere else
  if (waits && !holding() && event.key === "Enter" && enterForm()) {
    if (held[0] === "Enter") held.shift(); // said too early, and said again now that it is seen what to
    return; // the figures come after what is kept by it
  }
  if (event.repeat && event.key === "Enter") return stop(event);
  if (event.key === "Backspace") held.pop();
  else held.push(isLetter && event.shiftKey ? `${SHIFT}${event.key}` : event.key);
  stop(event);
  if (!holding()) void typeHeld();
}
window.addEventListener("keydown", hear, { capture: true });

const SHIFT = "\u21e7";

function stop(event: KeyboardEvent) {
  event.preventDefault();
  event.stopImmediatePropagation();
}

/** Hold keys until this is called back, or until the person gives up on it. */
export function holdKeys(): () => void {
  holders += 1;
  let done = false;
  return () => {
    if (!done) holders -= 1;
    done = true;
  };
}

let given = 0;

/** What no field has taken yet is let go after a while: figures are never typed into something they were not meant for. */
function wait() {
  window.clearTimeout(given);
  given = window.setTimeout(() => {
    if (!holding()) held.length = 0;
  }, WAIT_FOR_MS);
}

const aMoment = () => new Promise((go) => setTimeout(go));

/** Press a letter that was held: a rung of the desk, a word of its sentence, a way somewhere else. */
function press(key: string) {
  const shiftKey = key.startsWith(SHIFT);
  const target = document.activeElement ?? document.body;
  target.dispatchEvent(
    new KeyboardEvent("keydown", { key: key.replace(SHIFT, ""), shiftKey, bubbles: true, cancelable: true }),
  );
}

/** Type what was held into the field that has the focus; what is typed meanwhile comes after it. */
export async function typeHeld() {
  if (typing || holders > 0 || coming !== null || held.length === 0) return;
  typing = true;
  try {
    await aMoment();
    while (held.length > 0 && coming === null && holders === 0) {
      const key = held[0] ?? "";
      const field = document.activeElement;
      if (FIGURE.test(key)) {
        if (!isText(field)) return wait(); // a look comes first: the figures stay until their field stands
        held.shift();
        document.execCommand("insertText", false, key);
      } else if (key === "Enter") {
        // In a field it keeps the figure. Before a look it keeps the look, where figures follow it: alone it may have been
        // meant for what was there before, and waits until somebody sees what it would keep.
        const look = isText(field) ? null : enterForm();
        if (!isText(field) && !look) {
          held.shift(); // said to nothing
          continue;
        }
        if (look && !FIGURE.test(held[1] ?? "")) return wait();
        held.shift();
        (look ?? (field as TextField).form)?.requestSubmit();
        await aMoment();
      } else {
        held.shift();
        press(key);
        await aMoment();
      }
    }
  } finally {
    typing = false;
  }
}
