/** What is half typed. It lives by store, person, place and tab until it is kept or thrown away: a reload, Back, a closed tab, a
 * change of desk, one's own answer or a colleague's change take nothing of it. What a tab left behind is the next one's. */
import { createContext, useCallback, useContext, useRef, useState, type RefObject } from "react";
import { forgetTab, isGone, thisTab } from "./tab";

const PLACE = "vane-check-draft";
/** Between the place of a draft and its tab. */
const OF = "~";

type Values = Record<string, unknown>;
interface Written {
  values: Values;
  /** When it was last touched, so that the newest is taken up first. */
  at: number;
}

let owner = "";

/** Whose drafts these are from now on. */
export function draftsOf(store: number, person: number) {
  owner = `${PLACE}:${store}:${person}:`;
}

function read(key: string): Written | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null") as Written | null;
  } catch {
    return null;
  }
}

function keysUnder(start: string): string[] {
  const keys = [];
  for (let index = 0; index < localStorage.length; index += 1) {
    const key = localStorage.key(index) ?? "";
    if (key.startsWith(start)) keys.push(key);
  }
  return keys;
}

const tabOf = (key: string) => (key.includes(OF) ? key.slice(key.lastIndexOf(OF) + OF.length) : "");

/** The tabs that left something. */
export const tabsWithDrafts = () => [...new Set(keysUnder(PLACE).map(tabOf).filter(Boolean))];

/** May be taken up here: this tab's own, one whose tab is gone, one of a release that knew of no tabs. */
const isOurs = (key: string) => [thisTab(), ""].includes(tabOf(key)) || isGone(tabOf(key));

/** Take up at its place what another tab left, the newest, where this one has nothing there. */
function takeUp(place: string, own: string) {
  if (localStorage.getItem(own) !== null) return;
  const left = keysUnder(owner + place).filter((key) =>
    [place, place + OF + tabOf(key)].includes(key.slice(owner.length)),
  );
  const [newest] = left.filter(isOurs).sort((one, other) => (read(other)?.at ?? 0) - (read(one)?.at ?? 0));
  const text = newest === undefined ? null : localStorage.getItem(newest);
  if (newest === undefined || text === null) return;
  localStorage.setItem(own, text);
  localStorage.removeItem(newest);
  if (!tabsWithDrafts().includes(tabOf(newest))) forgetTab(tabOf(newest));
}

/** One draft, at its place, of this tab. */
export class DraftAt {
  private readonly key: string;
  private values: Values;

  constructor(place: string) {
    this.key = owner + place + OF + thisTab();
    takeUp(place, this.key);
    this.values = read(this.key)?.values ?? {};
  }
  get<Value>(name: string): Value | undefined {
    return this.values[name] as Value | undefined;
  }
  get isThere() {
    return Object.keys(this.values).length > 0;
  }
  set(name: string, value: unknown) {
    this.values = { ...this.values, [name]: value };
    localStorage.setItem(this.key, JSON.stringify({ values: this.values, at: Date.now() } satisfies Written));
  }
  /** It was kept, or thrown away. */
  clear() {
    this.values = {};
    localStorage.removeItem(this.key);
  }
}

/** The places under a path that hold a draft of this tab or of one that is gone, the newest first. */
export function draftsUnder(path: string): string[] {
  const found = keysUnder(owner + path)
    .filter(isOurs)
    .map((key): [string, number] => [key.slice(owner.length + path.length).split(OF)[0] ?? "", read(key)?.at ?? 0]);
  return found.sort(([, one], [, other]) => other - one).map(([place]) => place);
}

export const Drafting = createContext<DraftAt | null>(null);

/** A value of a form that is kept as it is typed: as it was last drawn, how to change it, and as it stands at this moment,
 * drawn or not: whoever leaves the form is not to wait for the next drawing. */
export function useKept<Value>(
  name: string,
  initial: Value | (() => Value),
): [Value, (next: Value | ((before: Value) => Value)) => void, RefObject<Value>] {
  const draft = useContext(Drafting);
  const [value, setValue] = useState<Value>(
    () => draft?.get<Value>(name) ?? (initial instanceof Function ? initial() : initial),
  );
  const now = useRef(value);
  const set = useCallback(
    (next: Value | ((before: Value) => Value)) => {
      now.current = next instanceof Function ? next(now.current) : next;
      draft?.set(name, now.current);
      setValue(now.current);
    },
    [draft, name],
  );
  return [value, set, now];
}
