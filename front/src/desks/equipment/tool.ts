/** A tool as it is typed, and as it is written into the book. */
import type { Schema } from "../../api/client";
import { numberOf } from "../../kit/units";
import { t } from "../../language/t";

export type Kind = Schema["Equipment"]["tool"]["kind"];
export type Written = Schema["Equipment"];

export const KINDS: Record<Kind, string> = {
  charger: t("tool.charger"),
  meter: t("tool.meter"),
  tester: t("tool.electronic_tester"),
  load: t("tool.load"),
  hydrometer: t("tool.hydrometer"),
  discharger: t("tool.discharger"),
};
export const SEVERAL: Record<Kind, string> = {
  charger: t("tool.chargers"),
  meter: t("tool.meters"),
  tester: t("tool.testers"),
  load: t("tool.loads"),
  hydrometer: t("tool.hydrometers"),
  discharger: t("tool.dischargers"),
};

export const STATES: Record<NonNullable<Written["state"]>, string> = {
  in_use: t("tool.in_use"),
  out_of_order: t("tool.out_of_order"),
  away: t("tool.retired"),
};

/** What is asked of a tool: a figure, yes or no, one of a few, some of a few. */
export type Asked =
  | { kind: "figure"; name: string; label: string; unit?: string; empty?: string; optional?: true }
  | { kind: "flag"; name: string; label: string; yes: string; no: string }
  | { kind: "choice"; name: string; label: string; words: Record<string, string> }
  | { kind: "some"; name: string; label: string; words: Record<string, string> };

const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" };
const TYPES = {
  flooded: t("screens.flooded"),
  efb: "EFB",
  agm_flat: t("screens.agm_flat"),
  agm_spiral: t("screens.agm_spiral"),
  gel: t("screens.gel"),
};
export const CHEMISTRIES = { flooded: t("screens.flooded"), hybrid: t("tool.low_maint"), calcium: t("screens.calcium"), efb: "EFB", agm: "AGM", gel: t("screens.gel") }; // prettier-ignore
export const DOES = { ordinary: "ordinary", recovery: "recovery", equalise: "equalise" };

export const ASKED: Record<Kind, Asked[]> = {
  charger: [
    { kind: "figure", name: "amps", label: t("tool.amps_of_an_output"), unit: "A" },
    { kind: "figure", name: "least_amps", label: t("tool.least_it_can_be_set_to"), unit: "A", empty: t("tool.as_low_as_asked"), optional: true },
    { kind: "figure", name: "outputs", label: t("tool.outputs") },
    { kind: "flag", name: "limits_itself", label: t("tool.while_nobody_is_in"), yes: t("tool.limits_itself_may_run"), no: t("screens.somebody_by_it") },
    { kind: "flag", name: "reports", label: t("tool.ah_and_amps"), yes: t("tool.shows_them_itself"), no: t("screens.by_hand") },
    { kind: "figure", name: "ambient_low_c", label: t("tool.coldest_around_it"), unit: "°C" },
    { kind: "figure", name: "ambient_high_c", label: t("tool.warmest_around_it"), unit: "°C" },
  ],
  meter: [
    { kind: "figure", name: "percent", label: t("tool.off_by"), unit: "%" },
    { kind: "figure", name: "digits", label: t("tool.and_digits") },
    { kind: "figure", name: "resolution_volts", label: t("tool.last_digit"), unit: "V" },
  ],
  tester: [
    { kind: "some", name: "scales", label: t("tool.scales_it_can_be_set_to"), words: SCALES },
    { kind: "some", name: "types", label: t("tool.types_it_can_be_set_to"), words: TYPES },
    { kind: "figure", name: "uncertainty_ratio", label: t("tool.off_by_of_its_figure"), empty: "0.05" },
    { kind: "choice", name: "shows", label: t("tool.it_shows"), words: { amps: t("tool.amps"), milliohms: t("tool.milliohms"), message: t("tool.a_message") } },
  ],
  load: [
    { kind: "flag", name: "adjustable", label: t("tool.its_amps"), yes: t("tool.adjustable"), no: t("tool.fixed") },
    { kind: "figure", name: "amps", label: t("tool.amps_or_its_most"), unit: "A" },
    { kind: "figure", name: "seconds", label: t("tool.on_its_face"), unit: "s" },
    { kind: "figure", name: "cool_minutes", label: t("tool.cools_for"), unit: "min" },
    { kind: "choice", name: "shows", label: t("screens.its_scale_shows"), words: { volts: t("screens.volts_2"), bands: t("tool.bands"), amps: t("tool.amps") } },
    { kind: "figure", name: "good_volts", label: t("tool.good_from_on_its_face"), unit: "V", empty: t("screens.as_the_house"), optional: true },
    { kind: "figure", name: "floor_volts", label: t("tool.bad_below_on_its_face"), unit: "V", empty: t("screens.as_the_house"), optional: true },
  ],
  hydrometer: [
    { kind: "choice", name: "shows", label: t("tool.it_shows"), words: { gravity: t("screens.figures"), bands: t("screens.colours") } },
    { kind: "figure", name: "resolution", label: t("tool.smallest_step"), empty: "0.005" },
    { kind: "flag", name: "corrects_itself", label: t("tool.warmth"), yes: t("tool.corrects_by_itself"), no: t("tool.corrected_here") },
  ],
  discharger: [{ kind: "figure", name: "amps", label: t("tool.steady_amps"), unit: "A" }],
}; // prettier-ignore

export const FIRST: Record<Kind, Record<string, unknown>> = {
  charger: { amps: 10, least_amps: null, outputs: 1, limits_itself: true, reports: false, ambient_low_c: 0, ambient_high_c: 40, modes: [{ name: "wet", volts: 14.7, chemistries: ["flooded", "hybrid", "calcium", "efb"], does: "ordinary" }] },
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
      return `${tool.amps} A${(tool.outputs ?? 1) > 1 ? t("tool.on_each_of", { outputs: tool.outputs }) : ""}, ${tool.modes.map(({ name, volts }) => t("tool.mode_holds", { name, volts })).join(", ")}${tool.limits_itself ? "" : t("tool.somebody_by_it")}`;
    case "meter":
      return t("tool.and_digits_of_v", {
        percent: tool.percent,
        digits: tool.digits,
        resolution_volts: tool.resolution_volts,
      });
    case "tester":
      return `${(tool.scales ?? []).join(", ")}; ±${Math.round(tool.uncertainty_ratio * 1000) / 10} %`;
    case "load":
      return t("tool.a_s_cools_min", {
        t: tool.adjustable ? t("screens.to") : t("tool.fixed"),
        amps: tool.amps,
        seconds: tool.seconds,
        cool_minutes: tool.cool_minutes,
      });
    case "hydrometer":
      return tool.shows === "bands" ? "colours" : t("tool.to", { resolution: tool.resolution });
    case "discharger":
      return `${tool.amps} A`;
  }
}
