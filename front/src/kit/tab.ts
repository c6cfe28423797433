/** Which tab this is, and which are gone: what is half typed belongs to its tab, and to the next one that comes by when it is gone. */
import { newId } from "./clock";

const TAB = "vane-check-tab";
const LEFT = "vane-check-left:";
const LIVES = "vane-check-lives:";

let id = sessionStorage.getItem(TAB) ?? newId();
sessionStorage.setItem(TAB, id);

/** This tab. Two pages at a time never have the same, a tab that was doubled neither. */
export const thisTab = () => id;

/** Whether a tab is gone for good, as far as anybody knows. */
export const isGone = (tab: string) => tab !== id && localStorage.getItem(LEFT + tab) !== null;

const isHere = () => localStorage.removeItem(LEFT + id);

/** Settle which tab this is, before anything of it is drawn, and note which of these are gone without having said so. */
export async function tabIsKnown(others: () => string[]): Promise<void> {
  window.addEventListener("pagehide", () => localStorage.setItem(LEFT + id, "left"));
  window.addEventListener("pageshow", isHere);
  if ("locks" in navigator) {
    if (!(await live())) {
      id = newId(); // another page has this name: the tab it was doubled from, or this one a moment ago
      sessionStorage.setItem(TAB, id);
      await live();
    }
    const { held } = await navigator.locks.query();
    const living = new Set(held?.map(({ name }) => name));
    for (const tab of others()) if (!living.has(LIVES + tab)) localStorage.setItem(LEFT + tab, "left");
  }
  isHere();
}

/** Hold this tab's name for as long as its page lives; false where another page holds it. */
function live(): Promise<boolean> {
  return new Promise((known) => {
    void navigator.locks.request(LIVES + id, { ifAvailable: true }, (mine) => {
      known(mine !== null);
      return mine ? new Promise(() => undefined) : undefined;
    });
  });
}

/** Nothing of a tab is left: it need not be remembered any more. */
export const forgetTab = (tab: string) => localStorage.removeItem(LEFT + tab);
