/** The language of the page: its catalogue, how its place writes figures and days. */
import i18next from "i18next";
import { ENGLISH } from "./english";

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
/** Keys by their message in English. */
const KEY_OF = new Map(Object.entries(ENGLISH).map(([key, message]) => [message, key]));
const OWN_LOCALE = "en-GB";
const LANGUAGE = "vane-check-language";
const KEPT = "vane-check-catalogue";
const TRIED = "vane-check-language-tried";

let current: Catalogue | null = null;
/** How a word that begins a line is written inside one. */
let inside = new Map<string, string>();

export const language = () => current?.code ?? OWN;
export const locale = () => current?.locale ?? OWN_LOCALE;
/** A word of a list inside a sentence: small, where the language writes it so. German nouns are not; the catalogue says which. */
export const small = (word: string) => (current ? (inside.get(word) ?? word) : word.toLowerCase());

/** A number of a fact, which may be parted in thousands. */
export const localNumber = (text: string): string =>
  current ? text.replace(/[.,]/g, (sign) => signOf(sign === "." ? "decimal" : "group")) : text;

/** A figure as the place writes it; what is none stays as it is. */
export function localFigure(value: string | number | null | undefined): string {
  if (value === null || value === undefined) return "";
  const text = typeof value === "number" ? String(value) : value;
  return current && FIGURE.test(text) ? text.replace(".", signOf("decimal")) : text;
}

/** A number in English; the edition of house rules, such as 2026.1, is none. */
const FIGURE = /^(?!20\d\d\.)[-−±+]?\d+\.\d+$/;
const signOf = (kind: "decimal" | "group") =>
  new Intl.NumberFormat(locale()).formatToParts(12345.6).find((part) => part.type === kind)?.value ?? "";

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
    resources: { [OWN]: { translation: ENGLISH } },
    fallbackLng: OWN,
    keySeparator: false,
    nsSeparator: false,
    interpolation: { prefix: "{", suffix: "}", escapeValue: false, skipOnVariables: true, nestingPrefix: "\u0000" },
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
  inside = new Map(
    Object.entries(ENGLISH).flatMap(([key, message]) => {
      const within = KEY_OF.get(message.charAt(0).toLowerCase() + message.slice(1));
      const [large, small] = [found.messages[key], within && found.messages[within]];
      return within === key || !large || !small ? [] : [[large, small] as const];
    }),
  );
  document.documentElement.lang = found.locale;
  i18next.addResourceBundle(found.code, "translation", found.messages);
  void i18next.changeLanguage(found.code);
}

/** The same of the first letter alone; what is written large throughout stays. */
export const smallFirst = (word: string) =>
  current ? (inside.get(word) ?? word) : word.replace(/^[A-Z](?=[a-z])/, (sign) => sign.toLowerCase());
