/** A tool as it is typed, and as it is written into the book. */
import type { Schema } from "../../api/client";
import { numberOf } from "../../kit/units";
import { t } from "../../language/t";

export type Kind = Schema["Equipment"]["tool"]["kind"];
export type Written = Schema["Equipment"];

export const KINDS: Record<Kind, string> = {
  charger: t("Charger"),
  meter: t("Meter"),
  tester: t("Electronic tester"),
  load: t("Load"),
  hydrometer: t("Hydrometer"),
  discharger: t("Discharger"),
};
export const STATES: Record<NonNullable<Written["state"]>, string> = {
  in_use: t("In use"),
  out_of_order: t("Out of order"),
  away: t("Away"),
};

/** What is asked of a tool: a figure, yes or no, one of a few, some of a few. */
export type Asked =
  | { kind: "figure"; name: string; label: string; unit?: string; empty?: string; optional?: true }
  | { kind: "flag"; name: string; label: string; yes: string; no: string }
  | { kind: "choice"; name: string; label: string; words: Record<string, string> }
  | { kind: "some"; name: string; label: string; words: Record<string, string> };

const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" };
const TYPES = {
  flooded: t("Flooded"),
  efb: "EFB",
  agm_flat: t("AGM flat"),
  agm_spiral: t("AGM spiral"),
  gel: t("Gel"),
};
export const CHEMISTRIES = { flooded: t("Flooded"), hybrid: t("Low-maint."), calcium: t("Calcium"), efb: "EFB", agm: "AGM", gel: t("Gel") }; // prettier-ignore
export const DOES = { ordinary: "ordinary", recovery: "recovery", equalise: "equalise" };

export const ASKED: Record<Kind, Asked[]> = {
  charger: [
    { kind: "figure", name: "amps", label: t("Amps of an output"), unit: "A" },
    { kind: "figure", name: "outputs", label: t("Outputs") },
    { kind: "flag", name: "limits_itself", label: t("While nobody is in"), yes: t("limits itself, may run"), no: t("somebody by it") },
    { kind: "flag", name: "reports", label: t("Ah and amps"), yes: t("shows them itself"), no: t("by hand") },
    { kind: "figure", name: "ambient_low_c", label: t("Coldest around it"), unit: "°C" },
    { kind: "figure", name: "ambient_high_c", label: t("Warmest around it"), unit: "°C" },
  ],
  meter: [
    { kind: "figure", name: "percent", label: t("Off by"), unit: "%" },
    { kind: "figure", name: "digits", label: t("and digits") },
    { kind: "figure", name: "resolution_volts", label: t("Last digit"), unit: "V" },
  ],
  tester: [
    { kind: "some", name: "scales", label: t("Scales it can be set to"), words: SCALES },
    { kind: "some", name: "types", label: t("Types it can be set to"), words: TYPES },
    { kind: "figure", name: "uncertainty_ratio", label: t("Off by, of its figure"), empty: "0.05" },
    { kind: "choice", name: "shows", label: t("It shows"), words: { amps: t("amps"), milliohms: t("milliohms"), message: t("a message") } },
  ],
  load: [
    { kind: "flag", name: "adjustable", label: t("Its amps"), yes: t("adjustable"), no: t("fixed") },
    { kind: "figure", name: "amps", label: t("Amps, or its most"), unit: "A" },
    { kind: "figure", name: "seconds", label: t("On its face"), unit: "s" },
    { kind: "figure", name: "cool_minutes", label: t("Cools for"), unit: "min" },
    { kind: "choice", name: "shows", label: t("Its scale shows"), words: { volts: t("volts"), bands: t("bands"), amps: t("amps") } },
    { kind: "figure", name: "good_volts", label: t("Good from, on its face"), unit: "V", empty: t("as the house"), optional: true },
    { kind: "figure", name: "floor_volts", label: t("Bad below, on its face"), unit: "V", empty: t("as the house"), optional: true },
  ],
  hydrometer: [
    { kind: "choice", name: "shows", label: t("It shows"), words: { gravity: t("figures"), bands: t("colours") } },
    { kind: "figure", name: "resolution", label: t("Smallest step"), empty: "0.005" },
    { kind: "flag", name: "corrects_itself", label: t("Warmth"), yes: t("corrects by itself"), no: t("corrected here") },
  ],
  discharger: [{ kind: "figure", name: "amps", label: t("Steady amps"), unit: "A" }],
}; // prettier-ignore

export const FIRST: Record<Kind, Record<string, unknown>> = {
  charger: { amps: 10, outputs: 1, limits_itself: true, reports: false, ambient_low_c: 0, ambient_high_c: 40, modes: [{ name: "wet", volts: 14.7, chemistries: ["flooded", "hybrid", "calcium", "efb"], does: "ordinary" }] },
  meter: { percent: 0.5, digits: 2, resolution_volts: 0.01 },
  tester: { scales: ["CCA"], types: ["flooded"], uncertainty_ratio: 0.05, shows: "amps" },
  load: { adjustable: true, amps: 500, seconds: 15, cool_minutes: 10, shows: "volts", good_volts: null, floor_volts: null },
  hydrometer: { shows: "gravity", resolution: 0.005, corrects_itself: false },
  discharger: { amps: 25 },
}; // prettier-ignore

export interface ModeTyped {
  name: string;
  volts: string;
  chemistries: string[];
  does: string;
}

/** A tool while it is typed: every figure as text, every flag as yes or no. */
export interface Typed {
  name: string;
  kind: Kind;
  figures: Record<string, string>;
  some: Record<string, string[]>;
  modes: ModeTyped[];
  state: NonNullable<Written["state"]>;
  checkedOn: string | null;
  everyMonths: string;
  remarks: string;
}

export function fieldsOf(kind: Kind, given: Written | null): Typed {
  const tool = { ...FIRST[kind], ...(given?.tool as Record<string, unknown> | undefined) };
  const figures: Record<string, string> = {};
  const some: Record<string, string[]> = {};
  for (const asked of ASKED[kind]) {
    const value = tool[asked.name];
    if (asked.kind === "some") some[asked.name] = (value as string[] | undefined) ?? [];
    else if (asked.kind === "flag") figures[asked.name] = value ? "yes" : "no";
    else figures[asked.name] = value == null ? "" : String(value);
  }
  return {
    name: given?.name ?? "",
    kind,
    figures,
    some,
    modes: ((tool["modes"] as Schema["ChargerMode"][] | undefined) ?? []).map((mode) => ({
      name: mode.name,
      volts: String(mode.volts),
      chemistries: [...(mode.chemistries ?? [])],
      does: mode.does ?? "ordinary",
    })),
    state: given?.state ?? "in_use",
    checkedOn: given?.checked_on ?? null,
    everyMonths: given?.check_every_months == null ? "" : String(given.check_every_months),
    remarks: given?.remarks ?? "",
  };
}

const number = (text: string) => numberOf(text) ?? (text.trim() === "" ? null : text);

/** As it is written; a figure that cannot be read goes as it was typed, and its field says what to enter. */
export function bodyOf(typed: Typed): Written {
  const tool: Record<string, unknown> = { kind: typed.kind };
  for (const asked of ASKED[typed.kind]) {
    const value = typed.figures[asked.name] ?? "";
    if (asked.kind === "some") tool[asked.name] = typed.some[asked.name] ?? [];
    else if (asked.kind === "flag") tool[asked.name] = value === "yes";
    else if (asked.kind === "choice") tool[asked.name] = value;
    else tool[asked.name] = number(value);
  }
  if (typed.kind === "charger") tool["modes"] = typed.modes.map((mode) => ({ ...mode, volts: number(mode.volts) }));
  return {
    name: typed.name.trim(),
    tool,
    state: typed.state,
    checked_on: typed.checkedOn,
    check_every_months: number(typed.everyMonths),
    remarks: typed.remarks.trim(),
  } as unknown as Written;
}

/** A tool in a line. */
export function wordsOf({ tool }: Written): string {
  switch (tool.kind) {
    case "charger":
      return `${tool.amps} A${(tool.outputs ?? 1) > 1 ? t(" on each of {0}", tool.outputs) : ""}, ${tool.modes.map(({ name, volts }) => `${name} ${volts} V`).join(", ")}${tool.limits_itself ? "" : t("; somebody by it")}`;
    case "meter":
      return t("±{0} % and {1} digits of {2} V", tool.percent, tool.digits, tool.resolution_volts);
    case "tester":
      return `${(tool.scales ?? []).join(", ")}; ±${Math.round(tool.uncertainty_ratio * 1000) / 10} %`;
    case "load":
      return t(
        "{0} {1} A, {2} s, cools {3} min",
        tool.adjustable ? t("to") : t("fixed"),
        tool.amps,
        tool.seconds,
        tool.cool_minutes,
      );
    case "hydrometer":
      return tool.shows === "bands" ? "colours" : t("to {0}", tool.resolution);
    case "discharger":
      return `${tool.amps} A`;
  }
}
