/** What a rung's form is made of: a few figures, and words of the spoken line; and the reading they make. */
import type { Reading, Schema } from "../../api/client";
import type { Method } from "../../api/methods";
import type { Tool } from "../../kit/tools";
import { celsiusOf, endsInPoint, numberOf, temperatureIn, voltsOf } from "../../kit/units";
import { localFigure } from "../../language/catalogue";

/** What the core says of one reading. */
export type Said = Schema["Finding"];

export interface FormProps<Kind extends Reading = Reading> {
  start: Kind | null;
  battery: Schema["Battery"];
  limits: Schema["Limits"];
  size: Schema["Size"] | null;
  store: Schema["StoreView"];
  /** It is the next step: what it asks is said by the rung. */
  due: Schema["StepKey"] | null;
  /** Whether one of this kind was read already. */
  readBefore: boolean;
  /** What the customer says is wrong. */
  complaint: Schema["Complaint"];
  /** Signs that stop everything. */
  hazards: ReadonlySet<Schema["Sign"]>;
  /** What it is read with, of the tools that may be picked. */
  tool?: Tool | undefined;
  tools?: Tool[];
  onTool?: (equipmentId: number) => void;
  /** What was noted of the charge that goes on: the log of the next note begins with it. */
  before?: Record<string, number>[] | null;
  /** On which charger it hangs. */
  stay?: Schema["StayView"] | null;
  /** What the last look found. */
  seen: Schema["Look"] | undefined;
  /** The job that this rung was opened to prove. */
  job?: Schema["Job"] | undefined;
  fault: (field: string) => string | undefined;
  /** What the core says of what is typed. */
  says: Said | undefined;
  /** The reading as typed so far, for the vane. */
  onType: (typed: Typed) => void;
  /** The form stands: how to read what it says at this moment, for whoever leaves it. Gives how to take that back. */
  onStands: (read: () => Typed) => () => void;
  onKeep: (body?: object) => void;
}

/** What a form says. */
export interface Typed {
  /** The reading without its name and time; null while it says nothing yet. */
  body: object | null;
  /** More of it is on its way, or what stands in a field is no figure: nobody's leaving keeps it. */
  half: boolean;
}

export type Values = Record<string, string | string[] | boolean>;

/** How one thing of a list stands. */
export type Tick = "" | "fine" | "wrong";

interface Common {
  name: string;
  label: string;
  /** It is a word of the spoken line: what stands before it, its letter, and its words while it is empty. */
  say?: { before?: string; after?: string; letter?: string; empty?: string; rare?: true };
  /** At odds with the label or with what was seen. */
  odd?: (value: string, props: FormProps) => boolean;
  /** Not read with this reading, but lent by another: plum as well. */
  lent?: (value: string, props: FormProps) => boolean;
  /** Shown among the words although it is rarely asked for. */
  wanted?: (props: FormProps) => boolean;
  /** Only asked then. */
  when?: (values: Values, props: FormProps) => boolean;
  /** What the word says, where that follows from more than its value. */
  shows?: (value: string, props: FormProps) => string;
}
export interface Figure extends Common {
  kind: "number" | "volts" | "temperature";
  /** It is read to its tenths at least: without a point it is half typed. */
  tenths?: true;
  unit?: string;
  needed?: boolean;
  start?: string;
  wide?: number;
  placeholder?: string;
}
export interface Pick extends Common {
  kind: "choice";
  words: Record<string, string>;
  /** Which of them there are to pick, where that follows from the tool. */
  only?: (props: FormProps) => readonly string[] | undefined;
  start: string;
  /** What is kept for a word, where it is not the word's own name. */
  out?: (value: string) => unknown;
  back?: (kept: unknown) => string | undefined;
  /** Picked, it is a reading by itself. */
  tells?: true;
}
interface Flag extends Common {
  kind: "flag";
  start?: boolean;
  words?: { yes: string; no: string };
}
export interface Cells extends Common {
  kind: "cells";
  placeholder: string;
  /** What a cell usually reads, from and to; null where anything goes. What lies outside is asked about. */
  usual: (values: Values, props: FormProps) => Schema["Usual"] | null;
  digits: number;
}
interface CellChoice extends Common {
  kind: "cell choice";
  words: Record<string, string>;
}
/** A list that is gone through: what is in order goes under one name, what is wrong under another. */
interface Ticks extends Common {
  kind: "ticks";
  words: Record<string, string>;
  fine: string;
  wrong: string;
}
/** Figures noted on the way: minutes, and volts or amps. */
export interface Log extends Common {
  kind: "log";
  of: "volts" | "amps";
}
export type Field = Figure | Pick | Flag | Cells | CellChoice | Ticks | Log;

/** A word of the screen alone: it is no field of the reading. */
type OwnWord = `_${string}`;
/** Fields of a reading whose value is of one type. */
type Named<R, Type> = { [N in keyof R]-?: [NonNullable<R[N]>] extends [Type] ? N : never }[keyof R] & string;
/** A choice of the reading's own words, each said; or one whose word is turned into what is kept. */
type PickOf<R, N extends keyof R & string> = Omit<Pick, "name" | "words"> & { name: N } & (
    | { words: Record<NonNullable<R[N]> & string, string>; out?: never }
    | { words: Record<string, string>; out: (value: string) => R[N] }
  );
type AnyPickOf<R> = { [N in keyof R & string]-?: PickOf<R, N> }[keyof R & string];

/** What a form of one kind of reading may ask: names and words as the schema has them. */
export type FieldOf<R> =
  | (Figure & { name: Named<R, number> })
  | AnyPickOf<R>
  | (Flag & { name: Named<R, boolean> | OwnWord })
  | (Cells & { name: Named<R, readonly number[]> })
  | (CellChoice & { name: Named<R, readonly string[]> })
  | (Ticks & { fine: Named<R, readonly string[]>; wrong: Named<R, readonly string[]> })
  | (Log & { name: Named<R, readonly object[]> });

/** The body of a reading, without what names it. */
export type BodyOf<K extends Method> = Partial<
  Omit<Extract<Reading, { kind?: K }>, "kind" | "id" | "taken_at" | "taken_by" | "replaces" | "tool">
>;

/** The words of a choice that may be picked here. */
export function wordsOf(field: Pick, props: FormProps): Record<string, string> {
  const only = field.only?.(props);
  return only ? Object.fromEntries(Object.entries(field.words).filter(([name]) => only.includes(name))) : field.words;
}

/** Whether it is asked, as things stand. */
export const isAsked = (field: Field, values: Values, props: FormProps) => !field.when || field.when(values, props);

export const isFigure = (field: Field): field is Figure =>
  field.kind === "number" || field.kind === "volts" || field.kind === "temperature";

export function initial(fields: readonly Field[], given: Record<string, string>, props: FormProps): Values {
  const known = (props.start ?? {}) as unknown as Record<string, unknown>;
  const count = (props.battery.nominal_volts ?? 12) / 2;
  return Object.fromEntries(
    fields.map((field) => {
      const was = known[field.name];
      if (field.kind === "log") {
        const log = (known[field.name] as Record<string, number>[] | undefined) ?? props.before ?? [];
        return [field.name, log.map((point) => `${point["minutes"]} ${point[field.of]}`)];
      }
      if (field.kind === "ticks") {
        const of = (name: string) => (known[name] as string[] | undefined) ?? [];
        const state = (item: string): Tick =>
          of(field.wrong).includes(item) ? "wrong" : of(field.fine).includes(item) ? "fine" : "";
        return [field.name, Object.keys(field.words).map(state)];
      }
      if (field.name === "_colours")
        return [field.name, ((known["bands"] as string[] | undefined) ?? []).length > 0 || given["_colours"] === "yes"];
      if (field.kind === "flag") return [field.name, typeof was === "boolean" ? was : (field.start ?? false)];
      if (field.kind === "cells" || field.kind === "cell choice") {
        const row = Array.isArray(was) && was.length ? was.map(String) : Array.from({ length: count }, () => "");
        return [field.name, row];
      }
      if (field.kind === "temperature") {
        // only what was taken with this reading: never the bay's, nor what was taken with another
        return [field.name, typeof was === "number" ? String(Math.round(temperatureIn(was, props.store))) : ""];
      }
      if (field.kind === "choice" && field.back && props.start)
        return [field.name, field.back(was) ?? given[field.name] ?? field.start];
      if (was != null)
        return [field.name, field.kind === "volts" ? localFigure(Number(was).toFixed(2)) : localFigure(String(was))];
      return [field.name, given[field.name] ?? field.start ?? ""];
    }),
  );
}

/** Under which names the moment that is typed and not noted yet stands among the values. */
export const nextOf = (field: Log) => ({ minutes: `_${field.name}_minutes`, figure: `_${field.name}_${field.of}` });

/** A log's moments, with the one that is typed and not noted yet; null where only a part of it is there. */
export function momentsIn(field: Log, values: Values): string[] | null {
  const noted = values[field.name];
  const moments = Array.isArray(noted) ? noted : [];
  const next = nextOf(field);
  const minutes = String(values[next.minutes] ?? "");
  const figure = String(values[next.figure] ?? "");
  if (minutes.trim() === "" && figure.trim() === "") return moments;
  const at = numberOf(minutes);
  const read = field.of === "volts" ? voltsOf(figure) : numberOf(figure);
  if (at === null || read === null) return null;
  const byMinutes = (one: string, other: string) => Number(one.split(" ")[0]) - Number(other.split(" ")[0]);
  return [...moments.filter((one) => one.split(" ")[0] !== String(at)), `${at} ${read}`].toSorted(byMinutes);
}

const FOUR_FIGURES = 4;

/** Whether what stands in a figure's field is no figure: it is mended, never left out. */
export const isNoFigure = (field: Field, value: Values[string] | undefined) =>
  isFigure(field) &&
  typeof value === "string" &&
  value.trim() !== "" &&
  (field.kind === "volts" ? voltsOf(value) : numberOf(value)) === null;

/** Whether more of a figure is surely on its way: it ends in its point, or has none yet and is read to its tenths. */
export function isHalf(field: Field, value: Values[string] | undefined): boolean {
  if (!isFigure(field) || typeof value !== "string") return false;
  const text = value.trim();
  return endsInPoint(text) || (field.tenths === true && /^\d+$/.test(text) && text.length < FOUR_FIGURES);
}

/** Which cells read what none usually does; a figure that is still being typed is not asked about. */
export function unusualIn(field: Cells, row: readonly string[], values: Values, props: FormProps): number[] {
  const usual = field.usual(values, props);
  if (usual === null) return [];
  return row.flatMap((text, place) => {
    const figure = gravityOf(text);
    const whole = /^(1\d{3}|\d[.,]\d{2,3})$/.test(text.trim());
    return figure !== null && whole && (figure < usual.least || figure > usual.most) ? [place] : [];
  });
}

export const gravityOf = (text: string) => {
  const value = numberOf(text);
  return value !== null && value > 100 ? value / 1000 : value;
};

/** The reading that the values make; null while they say nothing, or not enough. */
export function bodyOf<K extends Method>(
  fields: readonly Field[],
  values: Values,
  props: FormProps,
  isEnough: (body: BodyOf<K>) => boolean = () => true,
): BodyOf<K> | null {
  const body: Record<string, unknown> = {};
  let typed = false;
  for (const field of fields) {
    if (field.name.startsWith("_") || !isAsked(field, values, props)) continue; // a word of the screen alone
    const value = values[field.name];
    if (field.kind === "ticks" && Array.isArray(value)) {
      const of = (state: Tick) => Object.keys(field.words).filter((_, place) => value[place] === state);
      body[field.fine] = of("fine");
      body[field.wrong] = of("wrong");
      typed ||= value.some((state) => state !== "");
    } else if (field.kind === "log") {
      const moments = momentsIn(field, values);
      if (moments === null) return null;
      body[field.name] = moments.map((point) => {
        const [minutes, read] = point.split(" ").map(Number);
        return { minutes, [field.of]: read };
      });
    } else if (Array.isArray(value)) {
      if (value.every((text) => text !== "")) {
        body[field.name] = field.kind === "cells" ? value.map(gravityOf) : value;
        if (field.kind === "cells" && value.some((text) => gravityOf(text) === null)) return null;
        typed = true;
      } else if (value.some((text) => text !== "") && field.kind === "cells") return null;
    } else if (typeof value === "boolean") {
      body[field.name] = value;
      typed ||= value && !(field.kind === "flag" && field.start);
    } else if (field.kind === "choice") {
      body[field.name] = field.out ? field.out(value ?? "") : value;
      typed ||= field.tells === true && value !== field.start;
    } else {
      const parsed = field.kind === "volts" ? voltsOf(value ?? "") : numberOf(value ?? "");
      if (parsed === null && isFigure(field) && (field.needed || isNoFigure(field, value))) return null;
      if (field.kind === "temperature")
        body[field.name] = parsed === null ? null : Math.round(celsiusOf(parsed, props.store) * 10) / 10;
      else if (parsed !== null) {
        body[field.name] = parsed;
        typed = true;
      } else if (field.say) body[field.name] = null;
    }
  }
  const read = body as BodyOf<K>; // its names and their values are those of `FieldOf`
  return typed && isEnough(read) ? read : null;
}
