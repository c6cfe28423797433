/** The trade's words for what the API names. */
import { Time, today, toCalendarDateTime, toZoned } from "@internationalized/date";
import type { Reading, Schema } from "../api/client";
import { METHODS } from "../api/methods";
import { locale } from "../language/catalogue";
import { t } from "../language/t";
import { wordOf } from "../language/speak";

type Words<Name extends string> = Record<Name, string>;

export const OUTCOMES: Words<Schema["Outcome"]> = {
  sound: t("words.sound"),
  needs_charge: t("words.needs_charge"),
  watch: t("words.watch"),
  cannot_tell: t("words.cannot_tell"),
  leaks_charge: t("words.leaks_charge"),
  worn_out: t("words.worn_out"),
  dead_cell: t("words.dead_cell"),
  unsafe: t("screens.unsafe"),
};

export const PLACES: Words<Schema["ShelfBattery"]["place"]> = {
  counter: t("screens.counter_2"),
  bench: t("screens.bench"),
  on_charge: t("screens.on_charge_2"),
  standing: t("screens.standing"),
  ready: t("words.ready"),
  held_apart: t("words.held_apart"),
  on_the_way: t("screens.on_the_way_2"),
  gone: t("words.left_the_house"),
};

export const CHEMISTRIES: Words<Schema["Chemistry"]> = {
  flooded: t("screens.flooded"),
  hybrid: t("words.low_maintenance"),
  calcium: t("screens.calcium"),
  efb: "EFB",
  agm: "AGM",
  gel: t("screens.gel"),
};

export const CAME_IN: Words<Schema["CameIn"]> = {
  in_car: t("screens.in_the_car"),
  carried_in: t("words.carried_in"),
  returned: t("words.returned"),
  sold: t("words.sold_new"),
};

export const COMPLAINTS: Words<Schema["Complaint"]> = {
  will_not_start: t("words.will_not_start"),
  slow_crank: t("words.slow_crank"),
  clicks: t("words.clicks"),
  stood_for_weeks: t("words.stood_for_weeks"),
  warning_light: t("words.warning_light"),
  stop_start_stopped: t("words.stop_start_stopped"),
  failed_elsewhere: t("words.failed_elsewhere"),
  check_only: t("words.just_a_check"),
  not_said: t("words.nothing_said"),
};

export const USES: Words<Schema["Use"]> = {
  private: t("words.private"),
  taxi: t("screens.taxi"),
  delivery: t("words.delivery"),
  emergency: t("words.emergency"),
  agricultural: t("words.farm"),
  standby: t("words.standby"),
  deep_cycle: t("words.deep_cycle"),
};

export const SIGNS: Words<Schema["Sign"]> = {
  bulged: t("words.bulged"),
  cracked: t("words.cracked"),
  leaking: t("words.leaking"),
  hot: t("words.hot"),
  smelling_of_rotten_egg: t("words.rotten_egg_smell"),
  frozen: t("words.frozen"),
  melted_post: t("words.melted_post"),
  loose_post: t("words.loose_post"),
  hold_down_missing: t("words.no_hold_down"),
  hold_down_loose: t("words.loose_hold_down"),
  thin_post: t("words.thin_post"),
  vent_tube_off: t("words.vent_tube_off"),
  tray_rusted: t("words.rusted_tray"),
  wet_top: t("words.wet_top"),
  sticker_gone: t("words.sticker_gone"),
};

export const CORROSION: Words<Schema["Corrosion"]> = {
  none: t("screens.none_2"),
  light: t("words.light"),
  heavy: t("words.heavy"),
};
export const LEVELS: Words<Schema["Level"]> = {
  right: t("words.at_the_mark"),
  low: t("words.low"),
  plates_bare: t("screens.plates_bare"),
  over: t("words.over"),
};
export const EYES: Words<Schema["Eye"]> = { green: t("words.green"), dark: t("words.dark"), clear: t("words.clear") };
export const CELL_STATES: Words<Schema["CellState"]> = { lively: t("words.lively"), still: t("words.still") };
export const NEEDLES: Words<Schema["Needle"]> = {
  held: t("screens.held"),
  fell_during: t("words.fell_all_the_while"),
  dropped_after: t("words.held_then_dropped"),
  dropped_at_once: t("words.dropped_at_once"),
};

export const SETTLED: Words<Schema["Settled"]> = {
  rested: t("words.rested"),
  headlamps: t("words.headlamps"),
  just_charged: t("words.just_off_charge"),
  maintainer_on: t("words.maintainer_still_on"),
};

export const TYPES: Words<Schema["TypeSet"]> = {
  flooded: t("screens.flooded"),
  efb: "EFB",
  agm_flat: t("screens.agm_flat"),
  agm_spiral: t("screens.agm_spiral"),
  gel: t("screens.gel"),
};

export const CLAMPED: Words<Schema["Clamped"]> = {
  lead_posts: t("words.lead_posts"),
  studs: t("words.studs"),
  cable_clamps: t("words.cable_clamps"),
};

export const MESSAGES: Words<Schema["TesterMessage"]> = {
  good: t("words.good"),
  good_recharge: t("words.good_recharge"),
  recharge_retest: t("words.recharge_retest"),
  replace: t("words.replace"),
  bad_cell: t("words.bad_cell"),
};

/** A kind of reading, as its rung calls it. */
export const kindWord = (kind: NonNullable<Reading["kind"]>): string =>
  kind === "withdrawal" ? t("words.taking_back") : METHODS[kind].title;

/** What a hand is needed for, in one word under the battery on the shelf. */
export const HANDS: Words<Schema["StepKey"]> = {
  look: t("words.look"),
  measure_volts: t("screens.volts_2"),
  measure_again: t("words.again"),
  settle: t("words.settle"),
  rest_by_hours: t("words.settle"),
  read_label: t("words.label"),
  tester: t("words.test"),
  tester_again: t("words.retest"),
  load_test: t("words.load"),
  load_again: t("words.load"),
  clean_posts: t("words.clean"),
  clean_top: t("words.clean"),
  top_up: t("words.water"),
  cells: t("words.cells"),
  equalise: t("words.equalise"),
  stand: t("words.stand"),
  stop_charge: t("words.stop"),
  charge_and_retest: t("screens.charge"),
  replace: t("words.decide"),
  retest_later: t("words.later"),
  give_back: t("words.call"),
  sold: t("words.sold"),
  hold_apart: t("screens.unsafe"),
  charge_and_watch: t("screens.charge"),
  watch_charge: t("words.look_in"),
  check_charger: t("words.charger"),
  recovery_charge: t("words.recover"),
  measure_after_pull: t("screens.volts_2"),
  reserve_test: t("words.reserve"),
  fixed_test: t("words.load"),
  crank_test: t("words.crank"),
  stop_start_list: t("words.the_car"),
  look_again: t("words.look"),
  do_job: t("words.a_job"),
};

export const BANDS: Words<Schema["Band"]> = { green: t("words.green"), white: t("words.white"), red: t("words.red") };
export const SHOWN_BANDS: Words<Schema["ShownBand"]> = {
  good: t("words.good"),
  weak: t("words.weak"),
  bad: t("words.bad"),
};

/** What a stop-start system waits for, in the order it is looked through. */
export const WAITS: Words<Schema["Waits"]> = {
  driver: t("words.drivers_belt_door_seat"),
  bonnet: t("words.bonnet_shut"),
  engine_warm: t("words.engine_warm"),
  battery_warm: t("words.battery_not_cold_or_hot"),
  climate: t("words.climate_not_at_full"),
  steering: t("words.steering_straight_no_slope"),
  own_switch: t("words.its_own_off_switch"),
  sensor: t("words.sensor_plugged_in"),
  codes: t("words.no_stored_codes"),
  registered: t("words.battery_registered"),
};

/** An outcome as lists say it: sound only where nothing is left to be done. */
export const outcomeWords = (outcome: Schema["Outcome"], step: Schema["StepKey"] | null | undefined) =>
  step === "sold"
    ? t("words.sold_new")
    : outcome === "sound" && step && step !== "give_back"
      ? t("words.sound_after", { step: HANDS[step] })
      : OUTCOMES[outcome];

/** The word of a battery in a list, where the steps are not told: sold, or what was found. */
export const listWords = (row: { outcome: Schema["Outcome"]; sold: boolean }) =>
  row.sold ? t("words.sold_new") : OUTCOMES[row.outcome];

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
  if (at <= now) return t("words.now");
  const days = dayNumber(at) - dayNumber(now);
  if (days === 0) return timeOf(iso);
  if (days < 7) return at.toLocaleDateString(locale(), { weekday: "short", ...(zone ? { timeZone: zone } : {}) });
  return at.toLocaleDateString(locale(), { day: "numeric", month: "short", ...(zone ? { timeZone: zone } : {}) });
}

/** Where a value comes from, in words: whose memory it is, is said. */
export const STANDINGS: Record<string, string> = {
  published: t("words.published"),
  practice: t("words.practice"),
  memory: t("words.from_our_own_memory"),
};

export { money } from "./money";

/** Whether somebody may change rules, prices and people. */
export const mayLead = (who: { role: string }) => who.role === "lead" || who.role === "owner";

/** A name of the trade as it is written in the code: its words. */
export const nameOf = (word: string) => wordOf(word);
/** A rule by what it is about and its name. */
export const ruleName = (rule: string) => rule.split(".").map(nameOf).join(": ");
