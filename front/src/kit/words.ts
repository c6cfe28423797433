/** The trade's words for what the API names. */
import { Time, today, toCalendarDateTime, toZoned } from "@internationalized/date";
import type { Reading, Schema } from "../api/client";
import { METHODS } from "../api/methods";
import { locale, say } from "../language/catalogue";
import { t } from "../language/t";

type Words<Name extends string> = Record<Name, string>;

export const OUTCOMES: Words<Schema["Outcome"]> = {
  sound: t("sound"),
  needs_charge: t("needs charge"),
  watch: t("watch"),
  cannot_tell: t("cannot tell"),
  leaks_charge: t("leaks charge"),
  worn_out: t("worn out"),
  dead_cell: t("dead cell"),
  unsafe: t("unsafe"),
};

export const PLACES: Words<Schema["ShelfBattery"]["place"]> = {
  counter: t("counter"),
  bench: t("bench"),
  on_charge: t("on charge"),
  standing: t("standing"),
  ready: t("ready"),
  held_apart: t("held apart"),
  on_the_way: t("on the way"),
  gone: t("left the house"),
};

export const CHEMISTRIES: Words<Schema["Chemistry"]> = {
  flooded: t("Flooded"),
  hybrid: t("Low-maintenance"),
  calcium: t("Calcium"),
  efb: "EFB",
  agm: "AGM",
  gel: t("Gel"),
};

export const CAME_IN: Words<Schema["CameIn"]> = {
  in_car: t("In the car"),
  carried_in: t("Carried in"),
  returned: t("Returned"),
};

export const COMPLAINTS: Words<Schema["Complaint"]> = {
  will_not_start: t("Will not start"),
  slow_crank: t("Slow crank"),
  clicks: t("Clicks"),
  stood_for_weeks: t("Stood for weeks"),
  warning_light: t("Warning light"),
  stop_start_stopped: t("Stop-start stopped"),
  failed_elsewhere: t("Failed elsewhere"),
  check_only: t("Just a check"),
};

export const USES: Words<Schema["Use"]> = {
  private: t("Private"),
  taxi: t("Taxi"),
  delivery: t("Delivery"),
  emergency: t("Emergency"),
  agricultural: t("Farm"),
  standby: t("Standby"),
  deep_cycle: t("Deep cycle"),
};

export const SIGNS: Words<Schema["Sign"]> = {
  bulged: t("Bulged"),
  cracked: t("Cracked"),
  leaking: t("Leaking"),
  hot: t("Hot"),
  smelling_of_rotten_egg: t("Rotten egg smell"),
  frozen: t("Frozen"),
  melted_post: t("Melted post"),
  loose_post: t("Loose post"),
  hold_down_missing: t("No hold-down"),
  hold_down_loose: t("Loose hold-down"),
  thin_post: t("Thin post"),
  vent_tube_off: t("Vent tube off"),
  tray_rusted: t("Rusted tray"),
  wet_top: t("Wet top"),
  sticker_gone: t("Sticker gone"),
};

export const CORROSION: Words<Schema["Corrosion"]> = { none: t("None"), light: t("Light"), heavy: t("Heavy") };
export const LEVELS: Words<Schema["Level"]> = {
  right: t("at the mark"),
  low: t("low"),
  plates_bare: t("plates bare"),
  over: t("over"),
};
export const EYES: Words<Schema["Eye"]> = { green: t("Green"), dark: t("Dark"), clear: t("Clear") };
export const CELL_STATES: Words<Schema["CellState"]> = { lively: t("Lively"), still: t("Still") };
export const NEEDLES: Words<Schema["Needle"]> = {
  held: t("Held"),
  fell_during: t("Fell all the while"),
  dropped_after: t("Held, then dropped"),
  dropped_at_once: t("Dropped at once"),
};

export const SETTLED: Words<Schema["Settled"]> = {
  rested: t("Rested"),
  headlamps: t("Headlamps"),
  just_charged: t("Just off charge"),
  maintainer_on: t("Maintainer still on"),
};

export const TYPES: Words<Schema["TypeSet"]> = {
  flooded: t("Flooded"),
  efb: "EFB",
  agm_flat: t("AGM flat"),
  agm_spiral: t("AGM spiral"),
  gel: t("Gel"),
};

export const CLAMPED: Words<Schema["Clamped"]> = {
  lead_posts: t("Lead posts"),
  studs: t("Studs"),
  cable_clamps: t("Cable clamps"),
};

export const MESSAGES: Words<Schema["TesterMessage"]> = {
  good: t("Good"),
  good_recharge: t("Good, recharge"),
  recharge_retest: t("Recharge, retest"),
  replace: t("Replace"),
  bad_cell: t("Bad cell"),
};

/** A kind of reading, as its rung calls it. */
export const kindWord = (kind: NonNullable<Reading["kind"]>): string =>
  kind === "withdrawal" ? t("Taking back") : METHODS[kind].title;

/** What a hand is needed for, in one word under the battery on the shelf. */
export const HANDS: Words<Schema["StepKey"]> = {
  look: t("look"),
  measure_volts: t("volts"),
  measure_again: t("again"),
  settle: t("settle"),
  read_label: t("label"),
  tester: t("test"),
  tester_again: t("retest"),
  load_test: t("load"),
  load_again: t("load"),
  clean_posts: t("clean"),
  clean_top: t("clean"),
  top_up: t("water"),
  cells: t("cells"),
  equalise: t("equalise"),
  stand: t("stand"),
  stop_charge: t("stop"),
  charge_and_retest: t("charge"),
  replace: t("decide"),
  retest_later: t("later"),
  give_back: t("call"),
  hold_apart: t("unsafe"),
  charge_and_watch: t("charge"),
  watch_charge: t("look in"),
  check_charger: t("charger"),
  recovery_charge: t("recover"),
  measure_after_pull: t("volts"),
  reserve_test: t("reserve"),
  fixed_test: t("load"),
  crank_test: t("crank"),
  stop_start_list: t("the car"),
  look_again: t("look"),
  do_job: t("a job"),
};

export const BANDS: Words<Schema["Band"]> = { green: t("Green"), white: t("White"), red: t("Red") };
export const SHOWN_BANDS: Words<Schema["ShownBand"]> = { good: t("Good"), weak: t("Weak"), bad: t("Bad") };

/** What a stop-start system waits for, in the order it is looked through. */
export const WAITS: Words<Schema["Waits"]> = {
  driver: t("Driver's belt, door, seat"),
  bonnet: t("Bonnet shut"),
  engine_warm: t("Engine warm"),
  battery_warm: t("Battery not cold or hot"),
  climate: t("Climate not at full"),
  steering: t("Steering straight, no slope"),
  own_switch: t("Its own off-switch"),
  sensor: t("Sensor plugged in"),
  codes: t("No stored codes"),
  registered: t("Battery registered"),
};

/** An outcome as lists say it: sound only where nothing is left to be done. */
export const outcomeWords = (outcome: Schema["Outcome"], step: Schema["StepKey"] | null | undefined) =>
  outcome === "sound" && step && step !== "give_back" ? t("sound, after: {0}", HANDS[step]) : OUTCOMES[outcome];

let zone: string | undefined;

/** Times are the store's, wherever the screen stands. */
export const timesAre = (of: string) => {
  zone = of;
};

/** A day as people write it. A date without a time is that day in every zone. */
export function dayOf(iso: string): string {
  const plain = /^\d{4}-\d{2}-\d{2}$/.test(iso);
  const timeZone = plain ? "UTC" : zone;
  return new Date(iso).toLocaleDateString(locale(), {
    day: "numeric",
    month: "short",
    year: "numeric",
    ...(timeZone ? { timeZone } : {}),
  });
}

/** The month of a day. */
export const monthOf = (iso: string) =>
  new Date(iso).toLocaleDateString(locale(), { month: "short", year: "numeric", timeZone: "UTC" });

export const timeOf = (iso: string) =>
  new Date(iso).toLocaleTimeString(locale(), {
    hour: "2-digit",
    minute: "2-digit",
    hour12: false,
    ...(zone ? { timeZone: zone } : {}),
  });

/** A time of day as typed: 17, 1730, 17:30, 5.30; null where it is none. */
export function clockOf(typed: string): { hour: number; minute: number } | null {
  const match = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(typed.trim());
  if (!match) return null;
  const hour = Number(match[1]);
  const minute = Number(match[2] ?? 0);
  return hour < 24 && minute < 60 ? { hour, minute } : null;
}

/** The moment of a time of day in the store, so many days from today; a clock change in between is reckoned in. */
export function momentIn(days: number, clock: { hour: number; minute: number }): string {
  const of = zone ?? "UTC";
  const day = today(of).add({ days });
  return toZoned(toCalendarDateTime(day, new Time(clock.hour, clock.minute)), of).toAbsoluteString();
}

/** A moment by the shop's clock, with its day where that is not today. */
export function clockWords(iso: string, now: Date): string {
  const at = new Date(iso);
  const days = dayNumber(at) - dayNumber(now);
  if (days === 0) return timeOf(iso);
  return `${at.toLocaleDateString(locale(), { weekday: "short", ...(zone ? { timeZone: zone } : {}) })} ${timeOf(iso)}`;
}

/** The day a moment falls on in the store, as a number of days. */
export function dayNumber(at: Date): number {
  const text = at.toLocaleDateString("sv-SE", zone ? { timeZone: zone } : {});
  return Math.round(Date.parse(`${text}T00:00:00Z`) / 86_400_000);
}

/** When a hand is needed: an hour today, a word or a date after that. */
export function whenOf(iso: string, now: Date): string {
  const at = new Date(iso);
  if (at <= now) return "now";
  const days = dayNumber(at) - dayNumber(now);
  if (days === 0) return timeOf(iso);
  if (days < 7) return at.toLocaleDateString(locale(), { weekday: "short", ...(zone ? { timeZone: zone } : {}) });
  return at.toLocaleDateString(locale(), { day: "numeric", month: "short", ...(zone ? { timeZone: zone } : {}) });
}

/** Where a value comes from, in words: whose memory it is, is said. */
export const STANDINGS: Record<string, string> = {
  published: t("published"),
  practice: t("practice"),
  memory: t("from our own memory"),
};

export const money = (cents: number, currency: string) =>
  (cents / 100).toLocaleString(locale(), { style: "currency", currency });

/** Whether somebody may change rules, prices and people. */
export const mayLead = (who: { role: string }) => who.role === "lead" || who.role === "owner";

/** A name of the trade as it is written in the code: its words. */
export const nameOf = (word: string) => say(word.replaceAll("_", " "));
/** A rule by what it is about and its name. */
export const ruleName = (rule: string) => rule.split(".").map(nameOf).join(": ");
