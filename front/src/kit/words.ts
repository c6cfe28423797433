/** The trade's words for what the API names. */
import { Time, today, toCalendarDateTime, toZoned } from "@internationalized/date";
import type { Reading, Schema } from "../api/client";

type Words<Name extends string> = Record<Name, string>;

export const OUTCOMES: Words<Schema["Outcome"]> = {
  sound: "sound",
  needs_charge: "needs charge",
  watch: "watch",
  cannot_tell: "cannot tell",
  leaks_charge: "leaks charge",
  worn_out: "worn out",
  dead_cell: "dead cell",
  unsafe: "unsafe",
};

export const PLACES: Words<Schema["ShelfBattery"]["place"]> = {
  counter: "counter",
  bench: "bench",
  on_charge: "on charge",
  standing: "standing",
  ready: "ready",
  held_apart: "held apart",
  gone: "left the house",
};

export const CHEMISTRIES: Words<Schema["Chemistry"]> = {
  flooded: "Flooded",
  hybrid: "Low-maintenance",
  calcium: "Calcium",
  efb: "EFB",
  agm: "AGM",
  gel: "Gel",
};

export const CAME_IN: Words<Schema["CameIn"]> = {
  in_car: "In the car",
  carried_in: "Carried in",
  returned: "Returned",
};

export const COMPLAINTS: Words<Schema["Complaint"]> = {
  will_not_start: "Will not start",
  slow_crank: "Slow crank",
  clicks: "Clicks",
  stood_for_weeks: "Stood for weeks",
  warning_light: "Warning light",
  stop_start_stopped: "Stop-start stopped",
  failed_elsewhere: "Failed elsewhere",
  check_only: "Just a check",
};

export const USES: Words<Schema["Use"]> = {
  private: "Private",
  taxi: "Taxi",
  delivery: "Delivery",
  emergency: "Emergency",
  agricultural: "Farm",
  standby: "Standby",
  deep_cycle: "Deep cycle",
};

export const SIGNS: Words<Schema["Sign"]> = {
  bulged: "Bulged",
  cracked: "Cracked",
  leaking: "Leaking",
  hot: "Hot",
  smelling_of_rotten_egg: "Rotten egg smell",
  frozen: "Frozen",
  melted_post: "Melted post",
  loose_post: "Loose post",
  hold_down_missing: "No hold-down",
  hold_down_loose: "Loose hold-down",
  thin_post: "Thin post",
  vent_tube_off: "Vent tube off",
  tray_rusted: "Rusted tray",
  wet_top: "Wet top",
  sticker_gone: "Sticker gone",
};

export const CORROSION: Words<Schema["Corrosion"]> = { none: "None", light: "Light", heavy: "Heavy" };
export const LEVELS: Words<Schema["Level"]> = { right: "right", low: "low", plates_bare: "plates bare", over: "over" };
export const EYES: Words<Schema["Eye"]> = { green: "Green", dark: "Dark", clear: "Clear" };
export const CELL_STATES: Words<Schema["CellState"]> = { lively: "Lively", still: "Still" };
export const NEEDLES: Words<Schema["Needle"]> = {
  held: "Held",
  fell_during: "Fell all the while",
  dropped_after: "Held, then dropped",
  dropped_at_once: "Dropped at once",
};

export const SETTLED: Words<Schema["Settled"]> = {
  rested: "Rested",
  headlamps: "Headlamps",
  just_charged: "Just off charge",
  maintainer_on: "Maintainer still on",
};

export const TYPES: Words<Schema["TypeSet"]> = {
  flooded: "Flooded",
  efb: "EFB",
  agm_flat: "AGM flat",
  agm_spiral: "AGM spiral",
  gel: "Gel",
};

export const CLAMPED: Words<Schema["Clamped"]> = {
  lead_posts: "Lead posts",
  studs: "Studs",
  cable_clamps: "Cable clamps",
};

export const MESSAGES: Words<Schema["TesterMessage"]> = {
  good: "Good",
  good_recharge: "Good, recharge",
  recharge_retest: "Recharge, retest",
  replace: "Replace",
  bad_cell: "Bad cell",
};

/** Kinds of reading, as the rungs call them. */
export const KIND_WORDS: Words<NonNullable<Reading["kind"]>> = {
  look: "Look",
  case_leakage: "Leakage",
  rest_volts: "Volts",
  cells: "Cells",
  electronic_tester: "Tester",
  adjustable_load: "Pull",
  fixed_load: "Fixed load",
  crank: "Crank",
  charge_run: "Charge",
  stand: "Stand",
  reserve: "Reserve",
  car: "The car",
  withdrawal: "Taking back",
};

/** What a hand is needed for, in one word under the battery on the shelf. */
export const HANDS: Words<Schema["StepKey"]> = {
  look: "look",
  measure_volts: "volts",
  measure_again: "again",
  settle: "settle",
  read_label: "label",
  tester: "test",
  tester_again: "retest",
  load_test: "load",
  load_again: "load",
  clean_posts: "clean",
  clean_top: "clean",
  top_up: "water",
  cells: "cells",
  equalise: "equalise",
  stand: "stand",
  stop_charge: "stop",
  charge_and_retest: "charge",
  replace: "decide",
  retest_later: "later",
  give_back: "call",
  hold_apart: "unsafe",
  charge_and_watch: "charge",
  watch_charge: "look in",
  check_charger: "charger",
  recovery_charge: "recover",
  measure_after_pull: "volts",
  reserve_test: "reserve",
  fixed_test: "load",
  crank_test: "crank",
  stop_start_list: "the car",
  look_again: "look",
  do_job: "a job",
};

export const BANDS: Words<Schema["Band"]> = { green: "Green", white: "White", red: "Red" };
export const SHOWN_BANDS: Words<Schema["ShownBand"]> = { good: "Good", weak: "Weak", bad: "Bad" };

/** What a stop-start system waits for, in the order it is looked through. */
export const WAITS: Words<Schema["Waits"]> = {
  driver: "Driver's belt, door, seat",
  bonnet: "Bonnet shut",
  engine_warm: "Engine warm",
  battery_warm: "Battery not cold or hot",
  climate: "Climate not at full",
  steering: "Steering straight, no slope",
  own_switch: "Its own off-switch",
  sensor: "Sensor plugged in",
  codes: "No stored codes",
  registered: "Battery registered",
};

/** An outcome as lists say it: sound only where nothing is left to be done. */
export const outcomeWords = (outcome: Schema["Outcome"], step: Schema["StepKey"] | null | undefined) =>
  outcome === "sound" && step && step !== "give_back" ? `sound, after: ${HANDS[step]}` : OUTCOMES[outcome];

let zone: string | undefined;

/** Times are the store's, wherever the screen stands. */
export const timesAre = (of: string) => {
  zone = of;
};

/** A day as people write it. A date without a time is that day in every zone. */
export function dayOf(iso: string): string {
  const plain = /^\d{4}-\d{2}-\d{2}$/.test(iso);
  const timeZone = plain ? "UTC" : zone;
  return new Date(iso).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    ...(timeZone ? { timeZone } : {}),
  });
}

export const timeOf = (iso: string) =>
  new Date(iso).toLocaleTimeString("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    hour12: false,
    ...(zone ? { timeZone: zone } : {}),
  });

/** A time of day as typed: 17, 1730, 17:30, 5.30; null where it is none. */
export function clockOf(typed: string): { hour: number; minute: number } | null {
  const found = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(typed.trim());
  if (!found) return null;
  const hour = Number(found[1]);
  const minute = Number(found[2] ?? 0);
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
  return `${at.toLocaleDateString("en-GB", { weekday: "short", ...(zone ? { timeZone: zone } : {}) })} ${timeOf(iso)}`;
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
  if (days < 7) return at.toLocaleDateString("en-GB", { weekday: "short", ...(zone ? { timeZone: zone } : {}) });
  return at.toLocaleDateString("en-GB", { day: "numeric", month: "short", ...(zone ? { timeZone: zone } : {}) });
}

/** Where a value comes from, in words: whose memory it is, is said. */
export const STANDINGS: Record<string, string> = {
  published: "published",
  practice: "practice",
  memory: "from our own memory",
};

export const money = (cents: number, currency: string) =>
  (cents / 100).toLocaleString("en-GB", { style: "currency", currency });

/** Whether somebody may change rules, prices and people. */
export const mayLead = (who: { role: string }) => who.role === "lead" || who.role === "owner";
