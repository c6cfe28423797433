/** The language of the page: its catalogue, how its place writes figures and days, and sentences of the server read in it. */
import i18next from "i18next";
import { Reader } from "./reader";

export interface Catalogue {
  code: string;
  name: string;
  /** How the place writes days and figures (BCP 47). */
  locale: string;
  /** Changes with the catalogue. */
  edition: string;
  messages: Record<string, string>;
}

export const OWN = "en";
const OWN_LOCALE = "en-GB";
const LANGUAGE = "vane-check-language";
const KEPT = "vane-check-catalogue";
const TRIED = "vane-check-language-tried";

let current: Catalogue | null = null;
let reader: Reader | null = null;
/** How a word that begins a line is written inside one. */
let inside = new Map<string, string>();

export const language = () => current?.code ?? OWN;
export const locale = () => current?.locale ?? OWN_LOCALE;
/** A word of a list inside a sentence: small, where the language writes it so. German nouns are not; the catalogue says which. */
export const small = (word: string) => (current ? (inside.get(word) ?? word) : word.toLowerCase());

/** A figure as the place writes it; what is none stays as it is. */
export function localFigure(value: string | number | null | undefined): string {
  if (value === null || value === undefined) return "";
  const text = typeof value === "number" ? String(value) : value;
  return reader ? reader.figure(text) : text;
}

/** A sentence of the server in the language of the page. */
export const say = (text: string): string => reader?.read(text) ?? text;

/** The language a device was last used in; else the browser's, where there is a catalogue for it. */
const wanted = () => localStorage.getItem(LANGUAGE) ?? navigator.language.split("-")[0] ?? OWN;

/** Keep the language of the store somebody signed in at. Gives whether the page must be loaded anew: once for each language,
 * so that a catalogue that cannot be had stops nobody's work. */
export function languageIs(code: string): boolean {
  localStorage.setItem(LANGUAGE, code);
  if (code === language()) sessionStorage.removeItem(TRIED);
  else if (sessionStorage.getItem(TRIED) !== code) {
    sessionStorage.setItem(TRIED, code);
    return true;
  }
  return false;
}

/** Read the catalogue before anything is drawn; the one kept on the device serves until there is a newer one. */
export async function startLanguage(): Promise<void> {
  const code = wanted();
  await i18next.init({
    lng: OWN,
    resources: {},
    keySeparator: false,
    nsSeparator: false,
    interpolation: { prefix: "{", suffix: "}", escapeValue: false },
  });
  if (code === OWN) return;
  const kept = keptOne(code);
  if (kept) {
    take(kept);
    void fetched(code).catch(() => undefined); // newer messages are there the next time
  } else {
    const found = await fetched(code).catch(() => null);
    if (found) take(found);
  }
}

function keptOne(code: string): Catalogue | null {
  try {
    const found = JSON.parse(localStorage.getItem(KEPT) ?? "null") as Catalogue | null;
    return found?.code === code ? found : null;
  } catch {
    return null;
  }
}

const PATIENCE_MS = 8000;

async function fetched(code: string): Promise<Catalogue | null> {
  const known = keptOne(code)?.edition ?? "";
  const answer = await fetch(`/api/languages/${code}?known=${known}`, { signal: AbortSignal.timeout(PATIENCE_MS) });
  if (answer.status !== 200) return null;
  const found = (await answer.json()) as Catalogue;
  localStorage.setItem(KEPT, JSON.stringify(found));
  return found;
}

function take(found: Catalogue) {
  current = found;
  reader = new Reader(found);
  inside = new Map(
    Object.entries(found.messages).flatMap(([message, said]) => {
      const within = found.messages[message.charAt(0).toLowerCase() + message.slice(1)];
      return within === undefined ? [] : [[said, within] as const];
    }),
  );
  document.documentElement.lang = found.locale;
  i18next.addResourceBundle(found.code, "translation", found.messages);
  void i18next.changeLanguage(found.code);
}

/** The same of the first letter alone; what is written large throughout stays. */
export const smallFirst = (word: string) =>
  current ? (inside.get(word) ?? word) : word.replace(/^[A-Z](?=[a-z])/, (sign) => sign.toLowerCase());
