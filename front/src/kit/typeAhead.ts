/** Figures typed before their field is there are held, and typed into it as soon as it stands: nothing falls between. */

let holders = 0;
let typing = false;
const held: string[] = [];

const isText = (target: EventTarget | null): target is HTMLInputElement =>
  target instanceof HTMLInputElement && !["radio", "checkbox", "button"].includes(target.type);

/** A field is on its way: figures typed from now on are its own. It may never come; then they are let go again. */
let expected = 0;
const EXPECTED_FOR_MS = 8000;

export function expectField() {
  window.clearTimeout(expected);
  expected = window.setTimeout(() => {
    expected = 0;
    held.length = 0;
  }, EXPECTED_FOR_MS);
}

function noLongerExpected() {
  window.clearTimeout(expected);
  expected = 0;
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

const holding = () => holders > 0 || expected !== 0 || typing;

function hear(event: KeyboardEvent) {
  if (!holding() || event.ctrlKey || event.metaKey || event.altKey) return;
  if (!/^([0-9.,]|Enter|Backspace)$/.test(event.key)) return; // figures; a letter is a way somewhere else
  if (event.key === "Backspace") held.pop();
  else held.push(event.key);
  event.preventDefault();
  event.stopImmediatePropagation();
}
window.addEventListener("keydown", hear, { capture: true });

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
  while (held[0] === "Enter") held.shift(); // said to nothing
  window.clearTimeout(given);
  given = window.setTimeout(() => {
    if (!holding()) held.length = 0;
  }, EXPECTED_FOR_MS);
}

const aMoment = () => new Promise((go) => setTimeout(go));

/** Type what was held into the field that has the focus; what is typed meanwhile comes after it. */
export async function typeHeld() {
  if (typing || holders > 0 || expected !== 0 || held.length === 0) return;
  typing = true;
  try {
    await aMoment();
    for (;;) {
      const field = document.activeElement;
      if (!isText(field)) return wait(); // a look comes first: the figures stay until their field stands
      const key = held.shift();
      if (key === undefined) return;
      if (key === "Enter") {
        field.form?.requestSubmit();
        await aMoment();
      } else document.execCommand("insertText", false, key);
    }
  } finally {
    typing = false;
  }
}
