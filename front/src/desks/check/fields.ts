/** What a rung's form is made of: a few figures, and words of the spoken line; and the reading they make. */
import type { Reading, Schema } from "../../api/client";
import { celsiusOf, numberOf, shownTemperature, voltsOf } from "../../kit/units";

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
  /** Signs that stop everything. */
  hazards: ReadonlySet<Schema["Sign"]>;
  /** What the last look found. */
  seen: Schema["Look"] | undefined;
  fault: (field: string) => string | undefined;
  /** What the core says of what is typed. */
  says: Said | undefined;
  /** The reading as typed so far, without its name and time; null while it says nothing yet. */
  onType: (body: object | null) => void;
  onKeep: (body?: object) => void;
}

export type Values = Record<string, string | string[] | boolean>;

interface Common {
  name: string;
  label: string;
  /** It is a word of the spoken line: what stands before it, its letter, and its words while it is empty. */
  say?: { before?: string; after?: string; letter?: string; empty?: string };
  /** At odds with the label or with what was seen. */
  odd?: (value: string, props: FormProps) => boolean;
  /** Only asked then. */
  when?: (values: Values, props: FormProps) => boolean;
}
interface Figure extends Common {
  kind: "number" | "volts" | "temperature";
  unit?: string;
  needed?: boolean;
  start?: string;
  wide?: number;
  placeholder?: string;
}
interface Pick extends Common {
  kind: "choice";
  words: Record<string, string>;
  start: string;
  /** What is kept for a word, where it is not the word's own name. */
  out?: (value: string) => unknown;
  back?: (kept: unknown) => string | undefined;
}
interface Flag extends Common {
  kind: "flag";
  start?: boolean;
  words?: { yes: string; no: string };
}
interface Cells extends Common {
  kind: "cells";
  placeholder: string;
}
interface CellChoice extends Common {
  kind: "cell choice";
  words: Record<string, string>;
}
export type Field = Figure | Pick | Flag | Cells | CellChoice;

export const isFigure = (field: Field): field is Figure =>
  field.kind === "number" || field.kind === "volts" || field.kind === "temperature";

export function initial(fields: Field[], given: Record<string, string>, props: FormProps): Values {
  const known = (props.start ?? {}) as unknown as Record<string, unknown>;
  const count = (props.battery.nominal_volts ?? 12) / 2;
  return Object.fromEntries(
    fields.map((field) => {
      const was = known[field.name];
      if (field.kind === "flag") return [field.name, typeof was === "boolean" ? was : (field.start ?? false)];
      if (field.kind === "cells" || field.kind === "cell choice") {
        const row = Array.isArray(was) && was.length ? was.map(String) : Array.from({ length: count }, () => "");
        return [field.name, row];
      }
      if (field.kind === "temperature") {
        const celsius = typeof was === "number" ? was : props.start ? null : props.store.bay_temperature_c;
        return [field.name, celsius == null ? "" : String(Math.round(shownTemperature(celsius, props.store)))];
      }
      if (field.kind === "choice" && field.back && props.start)
        return [field.name, field.back(was) ?? given[field.name] ?? field.start];
      if (was != null) return [field.name, field.kind === "volts" ? Number(was).toFixed(2) : String(was)];
      return [field.name, given[field.name] ?? field.start ?? ""];
    }),
  );
}

export const gravityOf = (text: string) => {
  const value = numberOf(text);
  return value !== null && value > 100 ? value / 1000 : value;
};

/** The reading that the values make; null while they say nothing, or not enough. */
export function bodyOf(fields: Field[], values: Values, props: FormProps): object | null {
  const body: Record<string, unknown> = {};
  let typed = false;
  for (const field of fields) {
    if (field.when && !field.when(values, props)) continue;
    const value = values[field.name];
    if (Array.isArray(value)) {
      if (value.every((text) => text !== "")) {
        body[field.name] = field.kind === "cells" ? value.map(gravityOf) : value;
        if (field.kind === "cells" && value.some((text) => gravityOf(text) === null)) return null;
        typed = true;
      } else if (value.some((text) => text !== "") && field.kind === "cells") return null;
    } else if (typeof value === "boolean") {
      body[field.name] = value;
      typed ||= value && !(field.kind === "flag" && field.start);
    } else if (field.kind === "choice") body[field.name] = field.out ? field.out(value ?? "") : value;
    else {
      const parsed = field.kind === "volts" ? voltsOf(value ?? "") : numberOf(value ?? "");
      if (parsed === null && isFigure(field) && field.needed) return null;
      if (field.kind === "temperature")
        body[field.name] = parsed === null ? null : Math.round(celsiusOf(parsed, props.store) * 10) / 10;
      else if (parsed !== null) {
        body[field.name] = parsed;
        typed = true;
      } else if (field.say) body[field.name] = null;
    }
  }
  return typed ? body : null;
}
