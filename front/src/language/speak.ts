/** What the server says is a fact: the key of a message with its figures by name. It becomes words here, in the language of the page.
 * What somebody typed is plain text in it, and stands as it was typed. `vane_check/languages/speak.py` does the same for papers. */
import i18next from "i18next";
import { language, locale, localFigure, localNumber, OWN } from "./catalogue";

export interface Fact {
  key: string;
  with: Record<string, unknown>;
}

const has = (value: unknown, ...names: string[]): boolean =>
  typeof value === "object" && value !== null && names.every((name) => name in value);
const isFact = (value: unknown): value is Fact =>
  has(value, "key", "with") && Object.keys(value as object).length === 2;
const isRow = (value: unknown): value is { all: unknown[]; seam: string } => has(value, "all", "seam");
const isDay = (value: unknown): value is { day: string; shape: string } => has(value, "day", "shape");

/** An answer with its facts in words. */
export function spoken<Data>(data: Data): Data {
  return inWords(data) as Data;
}

function inWords(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inWords);
  if (typeof value !== "object" || value === null) return value;
  if (isFact(value)) return speak(value);
  return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, inWords(part)]));
}

/** A fact in words: whole in English where it, or one within it, is not written in the language of the page. */
export function speak(fact: Fact): string {
  return said(fact, canSay(fact, language()) ? language() : OWN);
}

const AS_WRITTEN = "as_written";
const CAPITAL = "capital";
const NOTHING = "nothing";

function canSay(value: unknown, code: string): boolean {
  if (isRow(value)) return value.all.every((part) => canSay(part, code));
  if (!isFact(value) || value.key === NOTHING || value.key === AS_WRITTEN) return true;
  const written =
    value.key === CAPITAL ||
    i18next.exists(value.key, { lng: code, fallbackLng: [], count: value.with["count"] as number });
  return written && Object.values(value.with).every((part) => canSay(part, code));
}

function said(value: unknown, code: string): string {
  if (isFact(value)) return saidFact(value, code);
  if (isRow(value)) {
    const seam = i18next.exists(value.seam, { lng: code, fallbackLng: [] })
      ? i18next.t(value.seam, { lng: code })
      : value.seam;
    return value.all.map((part) => said(part, code)).join(seam);
  }
  if (isDay(value)) return dayIn(value.day, value.shape);
  if (has(value, "n")) return localNumber((value as { n: string }).n);
  if (typeof value === "number") return Number.isInteger(value) ? String(value) : localFigure(value);
  return String(value);
}

function saidFact({ key, with: figures }: Fact, code: string): string {
  if (key === NOTHING) return "";
  const texts = Object.fromEntries(Object.entries(figures).map(([name, part]) => [name, said(part, code)]));
  if (key === AS_WRITTEN) return texts["text"] ?? "";
  if (key === CAPITAL) return capital(texts["text"] ?? "");
  return i18next.t(key, { ...texts, lng: code, ...("count" in figures ? { count: Number(figures["count"]) } : {}) });
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** A day or a moment of the shop's own clock by its shape in English, such as `%a %d %b %H:%M`, as the place writes it. */
function dayIn(iso: string, shape: string): string {
  const at = new Date(`${iso}Z`);
  const write = (how: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale(), { ...how, timeZone: "UTC" }).format(at);
  const clock = iso.slice(11, 16);
  if (language() === OWN)
    return shape
      .replace("%H:%M", clock)
      .replace("%-d", String(at.getUTCDate()))
      .replace("%d", iso.slice(8, 10))
      .replace("%Y", iso.slice(0, 4))
      .replace("%A", write({ weekday: "long" }))
      .replace("%a", write({ weekday: "short" }))
      .replace("%B", write({ month: "long" }))
      .replace("%b", write({ month: "short" }));
  const parts = [];
  if (/%a/i.test(shape)) parts.push(write({ weekday: shape.includes("%A") ? "long" : "short" }));
  if (/%b/i.test(shape))
    parts.push(
      write({
        month: shape.includes("%B") ? "long" : "short",
        ...(/%-?d/.test(shape) ? { day: "numeric" as const } : {}),
        ...(shape.includes("%Y") ? { year: "numeric" as const } : {}),
      }),
    );
  const written = parts.join(", ");
  if (!shape.endsWith("%H:%M")) return written;
  return written ? written + (shape.includes(", %H") ? ", " : " ") + clock : clock;
}

/** A word of a closed set by its name in the code: a size's side, a role, a rule. */
export const wordOf = (name: string): string =>
  i18next.t(`word.${name.replaceAll(/[ -]/g, "_")}`, { defaultValue: name.replaceAll("_", " ") });
