/**
 * A sentence that was written in English is read back by its pattern in the catalogue, and said in another language.
 * What was kept years ago is read so too: evidence stays as it was written. `vane_check/languages/reader.py` does the same for papers;
 * both are held against one list of examples (`vane_check/languages/examples.json`).
 */

interface Source {
  locale: string;
  messages: Record<string, string>;
}
interface Pattern {
  shape: RegExp;
  said: string;
  weight: number;
  /** The hole it ends with: what fills it may stand elsewhere in the language, so no full stop goes along. */
  last: string | undefined;
}
/** A sentence in the language, and how much of it no pattern knows. */
interface Said {
  text: string;
  missed: number;
}

const HOLE = /\{(\w+)\}/g;
const LAST = /\{(\w+)\}$/;
const FULL_STOP = /\.$|\. [A-ZÄÖÜ]/;
const LETTERS_AT_LEAST = 2;
/** Figures; the edition of house rules, such as 2026.1, is none. */
const FIGURE = /^(?!20\d\d\.)[-−±+]?\d+\.\d+$/;
const INSIDE = /(?<![\d.])(?!20\d\d\.)\d+\.\d+(?![\d.])/g;
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const A_MONTH = "(?<month>(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]*)";
const A_WEEKDAY = "(?:(?<weekday>(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)[a-z]*),? )?";
const DAY = new RegExp(`^${A_WEEKDAY}(?<day>\\d{1,2}) ${A_MONTH}(?: (?<year>\\d{4}))?(?<time>,? \\d{2}:\\d{2})?$`);
const MONTH = new RegExp(`^${A_MONTH} (?<year>\\d{4})$`);
/** A month or a weekday written with no more letters is cut short. */
const SHORT = 4;
/** Stands where no year is said. */
const LEAP_YEAR = 2024;
/** A Monday. */
const MONDAY = Date.UTC(2024, 0, 1);
const DAY_MS = 86_400_000;
/** Where a sentence may be parted, the strongest first. */
const SEAMS = ["  ", ". ", "; ", ": ", ", ", " · ", " (", " and "];
const DEEPEST = 8;
/** Of a sentence: half of one in another language helps nobody. */
const UNKNOWN_AT_MOST = 0.6;
/** Of a sentence that a pattern says itself, from which it goes before parting the sentence. */
const SURE_SHARE = 0.35;
/** Parts looked at in one sentence: the longest of the product takes 315, a page somebody typed would take any number. */
const LOOKS_AT_MOST = 600;
const KEPT_AT_MOST = 20_000;
const UNITS = new Set(["mm", "cm", "min", "kg", "ms"]);

export class Reader {
  private readonly exact: Map<string, string>;
  private readonly byWord = new Map<string, Pattern[]>();
  private readonly known = new Map<string, Said>();
  private readonly locale: string;
  private readonly decimal: string;
  private left = 0;

  constructor({ locale, messages }: Source) {
    this.locale = locale;
    this.decimal = new Intl.NumberFormat(locale).format(0.5).replace(/\d/g, "");
    this.exact = new Map(Object.entries(messages).filter(([message]) => !/\{\w+\}/.test(message)));
    for (const [message, said] of Object.entries(messages)) this.learn(message, said);
    for (const all of this.byWord.values()) all.sort((one, other) => other.weight - one.weight);
  }

  /** The sentence in the language; what no pattern knows stays as it is, and so does all of it where that is most of it. */
  read(text: string): string {
    this.left = LOOKS_AT_MOST;
    const { text: said, missed } = this.found(text, 0);
    return missed <= text.length * UNKNOWN_AT_MOST ? said : text;
  }

  /** A figure or a day as the place writes it. */
  figure(text: string): string {
    if (FIGURE.test(text)) return text.replace(".", this.decimal);
    const told = (DAY.exec(text) ?? MONTH.exec(text))?.groups;
    const name = told?.["month"];
    if (!told || !name) return text;
    const at = Date.UTC(
      Number(told["year"] ?? LEAP_YEAR),
      MONTHS.indexOf(name.slice(0, 3).toLowerCase()),
      Number(told["day"] ?? 1),
    );
    const said = this.written(at, {
      month: name.length > SHORT ? "long" : "short",
      ...(told["day"] ? { day: "numeric" } : {}),
      ...(told["year"] ? { year: "numeric" } : {}),
    });
    return this.weekday(told["weekday"]) + said + (told["time"] ?? "");
  }

  private weekday(name: string | undefined): string {
    if (!name) return "";
    const at = MONDAY + WEEKDAYS.indexOf(name.slice(0, 3).toLowerCase()) * DAY_MS;
    return `${this.written(at, { weekday: name.length > SHORT ? "long" : "short" })}, `;
  }

  private written(at: number, how: Intl.DateTimeFormatOptions): string {
    return new Intl.DateTimeFormat(this.locale, { ...how, timeZone: "UTC" }).format(at);
  }

  private figures(text: string): string {
    const whole = this.figure(text);
    return whole === text ? text.replace(INSIDE, (one) => one.replace(".", this.decimal)) : whole;
  }

  private learn(message: string, said: string) {
    const bare = message.replace(HOLE, "");
    if (bare === message || bare.replace(/[^\p{L}]/gu, "").length < LETTERS_AT_LEAST) return;
    const seen: string[] = [];
    const source = message
      .split(/(\{\w+\})/)
      .map((part) => {
        const hole = /^\{(\w+)\}$/.exec(part)?.[1];
        if (hole === undefined) return escaped(part);
        if (seen.includes(hole)) return `\\k<v${hole}>`;
        seen.push(hole);
        return `(?<v${hole}>.*?)`;
      })
      .join("");
    const word = firstWord(message);
    const all = this.byWord.get(word) ?? [];
    all.push({ shape: new RegExp(`^${source}$`, "us"), said, weight: bare.length, last: LAST.exec(message)?.[1] });
    this.byWord.set(word, all);
  }

  private found(text: string, depth: number): Said {
    const before = this.known.get(text);
    if (before) return before;
    if (this.left <= 0) return { text, missed: text.length };
    this.left -= 1;
    if (this.known.size > KEPT_AT_MOST) this.known.clear();
    let now = this.look(text, depth);
    if (this.left <= 0 && depth === 0) now = { text, missed: text.length }; // given up half way: it is no sentence of the product
    if (this.left > 0 || depth === 0) this.known.set(text, now);
    return now;
  }

  private look(text: string, depth: number): Said {
    const exact = this.exact.get(text);
    if (exact !== undefined) return { text: exact, missed: 0 };
    if (this.figure(text) !== text || !isSaid(text)) return { text: this.figures(text), missed: 0 };
    let best: Said = { text, missed: text.length };
    if (depth > DEEPEST) return best;
    for (const way of this.ways(text, depth)) {
      if (way.missed < best.missed) best = way;
      if (best.missed === 0) break;
    }
    return best;
  }

  /** Every way to read it, the likeliest first. */
  private *ways(text: string, depth: number): Generator<Said> {
    const turned = this.turned(text);
    if (turned !== null) yield { text: turned, missed: 0 };
    const patterns = [...(this.byWord.get(firstWord(text)) ?? []), ...(this.byWord.get("") ?? [])];
    const sure = text.length * SURE_SHARE;
    yield* this.filled(
      patterns.filter(({ weight }) => weight >= sure),
      text,
      depth,
    );
    if (/^\p{Lu}\p{Ll}/u.test(text)) {
      // a part of a sentence that stands at its beginning
      const small = this.found(text.charAt(0).toLowerCase() + text.slice(1), depth + 1);
      yield { text: large(small.text), missed: small.missed };
    }
    yield* this.parted(text, depth);
    yield* this.filled(
      patterns.filter(({ weight }) => weight < sure),
      text,
      depth,
    );
  }

  private *filled(patterns: Pattern[], text: string, depth: number): Generator<Said> {
    for (const pattern of patterns) {
      const values = pattern.shape.exec(text)?.groups;
      if (!values || (pattern.last !== undefined && FULL_STOP.test(values[`v${pattern.last}`] ?? ""))) continue;
      const holes = new Map(Object.entries(values).map(([name, value]) => [name, this.found(value, depth + 1)]));
      yield {
        text: pattern.said.replace(HOLE, (_, hole: string) => holes.get(`v${hole}`)?.text ?? ""),
        missed: [...holes.values()].reduce((sum, one) => sum + one.missed, 0),
      };
    }
  }

  /** With another first letter: a word of a list stands at the beginning of a sentence, or inside one. */
  private turned(text: string): string | null {
    const first = text.charAt(0);
    for (const other of [first.toLowerCase(), first.toUpperCase()]) {
      const said = other === first ? undefined : this.exact.get(other + text.slice(1));
      if (said !== undefined) return first !== first.toLowerCase() ? large(said) : said;
    }
    return null;
  }

  private *parted(text: string, depth: number): Generator<Said> {
    for (const seam of SEAMS) {
      for (let at = text.indexOf(seam); at > 0; at = text.indexOf(seam, at + 1)) {
        const one = this.found(text.slice(0, at), depth + 1);
        if (one.missed < at) {
          // a part that was put behind brings its seam along; where the beginning is wholly unknown nothing is won
          const withSeam = this.found(text.slice(at), depth + 1);
          yield { text: one.text + withSeam.text, missed: one.missed + withSeam.missed };
        }
        const other = this.found(text.slice(at + seam.length), depth + 1);
        yield { text: one.text + (this.exact.get(seam) ?? seam) + other.text, missed: one.missed + other.missed };
      }
    }
    const end = /^(.*[^.)])([.)]+)$/s.exec(text);
    if (end) {
      const whole = this.found(end[1] ?? "", depth + 1);
      yield { text: whole.text + (end[2] ?? ""), missed: whole.missed };
    }
  }
}

const large = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&");
/** The word a pattern begins with, where it begins with a whole one. */
const firstWord = (text: string) => /^([^\s{]+)(?=\s)/.exec(text)?.[1] ?? "";
/** Whether there is a word in it: more than figures, units and names of scales. */
const isSaid = (text: string) => [...text.matchAll(/[A-ZÄÖÜ]?[a-zäöüß]{2,}/g)].some(([word]) => !UNITS.has(word));
