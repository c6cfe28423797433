/** What the loads, the charger, the stand and the car are asked, in figures and in words. */
import { Soft } from "../../kit/parts";
import { NEEDLES, SHOWN_BANDS, WAITS } from "../../kit/words";
import type { Field, FormProps, Values } from "./fields";
import { celsiusTyped, heldAt, postsClean, temperature, volts, warmth, whole } from "./said";
import type { Spec } from "./spec";

const setLoad = (props: FormProps, values: Values) => {
  const { load, load_limits } = props.limits;
  if (load.amps === null) return "No rating and no Ah on record: correct the label to size the pull.";
  return (
    <>
      Set {whole(Math.round(load.amps), "A")} for {whole(load.seconds, "s")}: must hold{" "}
      {volts(heldAt(celsiusTyped(values, props), load_limits))}{" "}
      <Soft>
        at {warmth(values, props)}
        {load.can_pass ? "" : "; this load can only fail it"}
      </Soft>
    </>
  );
};

const endAmps: Field = {
  kind: "number",
  name: "end_amps",
  label: "Amps at the end",
  unit: "A",
  say: { before: "amps at the end", empty: "the same", rare: true },
};

const needle: Field = {
  kind: "choice",
  name: "needle",
  label: "The volts",
  words: NEEDLES,
  start: "held",
  say: { before: "it", letter: "X" },
};

const drop = (name: string, label: string): Field => ({
  kind: "number",
  name,
  label: `Volt drop, ${label}`,
  unit: "V",
  say: { before: label, empty: "not measured", rare: true },
});

const held = (before: string): Field => ({
  kind: "number",
  name: "seconds",
  label: "Held",
  unit: "s",
  say: { before, empty: "seconds nobody counted", letter: "O" },
});

export const PULL: Spec = {
  asks: setLoad,
  starts: ({ limits }) => ({
    amps: limits.load.amps === null ? "" : String(Math.round(limits.load.amps)),
    seconds: String(limits.load.seconds),
  }),
  timer: ({ limits }) => ({ seconds: limits.load.seconds }),
  between: ({ limits }) => limits.load_wait_minutes,
  fields: [
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V", needed: true },
    {
      kind: "number",
      name: "amps",
      label: "Drawn",
      unit: "A",
      say: { before: "pulled", empty: "amps nobody read", letter: "Y" },
      odd: (value, { limits }) => limits.load.amps !== null && value !== String(Math.round(limits.load.amps)),
    },
    held("for"),
    needle,
    temperature,
    endAmps,
    postsClean(),
  ],
};

export const FIXED: Spec = {
  asks: ({ limits: { fixed } }) => (
    <>
      {whole(fixed.seconds, "s")}, read at the end: good above {volts(fixed.good_volts, 1)}, floor{" "}
      {volts(fixed.floor_volts, 1)}; must come back to {volts(fixed.bounce_volts, 1)}
      {fixed.can_pass ? "" : ". It can fail this battery, never pass it"}
    </>
  ),
  starts: ({ limits: { fixed } }) => ({ amps: String(fixed.amps), seconds: String(fixed.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.fixed.seconds }),
  enough: (body) => body["volts"] !== undefined || body["band"] != null || body["shown_cca_amps"] != null,
  fields: [
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V" },
    { kind: "volts", name: "bounce_volts", label: "Came back to", unit: "V", wide: 132 },
    { kind: "number", name: "amps", label: "It draws", unit: "A", say: { before: "drew", letter: "Y" } },
    held("for"),
    temperature,
    { ...needle, say: { before: "it", letter: "X", rare: true } },
    {
      kind: "choice",
      name: "band",
      label: "Its scale shows",
      words: { none: "Volts only", ...SHOWN_BANDS },
      start: "none",
      out: (value) => (value === "none" ? null : value),
      back: (kept) => (kept == null ? "none" : String(kept)),
      tells: true,
      wanted: ({ tool }) => tool?.tool.kind === "load" && tool.tool.shows === "bands",
      say: { before: "its scale shows", rare: true },
    },
    {
      kind: "number",
      name: "shown_cca_amps",
      label: "CCA on its scale",
      unit: "CCA",
      wanted: ({ tool }) => tool?.tool.kind === "load" && tool.tool.shows === "amps",
      say: { before: "or", empty: "no CCA", rare: true },
    },
    endAmps,
    postsClean(),
  ],
};

export const CRANK: Spec = {
  asks: (props, values) => {
    const { crank, load, load_limits } = props.limits;
    const colder = heldAt(celsiusTyped(values, props), load_limits) - load.min_volts;
    return (
      <>
        Crank, read when the speed is steady: must hold {volts(crank.min_volts + colder, 1)}{" "}
        <Soft>at {warmth(values, props)}</Soft>
      </>
    );
  },
  enough: (body) => body["volts"] !== undefined || body["dip_volts"] !== undefined,
  starts: ({ limits }) => ({ seconds: String(limits.crank.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.crank.seconds }),
  fields: [
    { kind: "volts", name: "volts", label: "Volts cranking", unit: "V" },
    { kind: "volts", name: "dip_volts", label: "Start dip", unit: "V", wide: 124 },
    {
      kind: "flag",
      name: "engine_disabled",
      label: "Engine disabled",
      start: true,
      words: { yes: "engine disabled", no: "engine free to start" },
      say: { letter: "Y" },
    },
    held("cranked"),
    {
      kind: "flag",
      name: "at_posts",
      label: "At the battery's posts",
      start: true,
      words: { yes: "at the battery's posts", no: "not at its posts" },
      say: { letter: "X" },
    },
    temperature,
  ],
};

export const STAND: Spec = {
  asks: ({ limits }) => (
    <>
      After a full charge, off everything: must hold {volts(limits.recharge_line_volts)} for{" "}
      {whole(limits.stand_hours, "h")} <Soft>; a good one loses {limits.own_loss_pct_per_month} % a month</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "volts", label: "Volts now", unit: "V", needed: true },
    { kind: "volts", name: "start_volts", label: "At the start", unit: "V" },
    { kind: "number", name: "hours", label: "It stood", unit: "h" },
    temperature,
  ],
};

/** Timed discharge: the work of batteries that do not start engines. */
export const RESERVE: Spec = {
  asks: ({ limits: { reserve } }) => (
    <>
      From full at {whole(reserve.amps, "A")} down to {volts(reserve.end_volts)}: at least{" "}
      {whole(reserve.limit_pct, "%")} of {reserve.rated_words}
    </>
  ),
  starts: ({ limits: { reserve } }) => ({ amps: String(reserve.amps), volts: reserve.end_volts.toFixed(2) }),
  fields: [
    { kind: "number", name: "minutes", label: "Minutes it gave", unit: "min", needed: true },
    { kind: "number", name: "amps", label: "Drawn", unit: "A", say: { before: "at", letter: "Y" } },
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V", say: { before: "down to", letter: "O" } },
    {
      kind: "flag",
      name: "after_full_charge",
      label: "From full",
      start: true,
      words: { yes: "from full and rested", no: "not known to be full" },
      say: { letter: "X" },
    },
    temperature,
    { kind: "log", of: "volts", name: "log", label: "On the way" },
  ],
};

export const CAR: Spec = {
  asks: ({ limits }) => (
    <>
      Running {volts(limits.running_low_volts, 1)} to {volts(limits.running_high_volts, 1)}, key-off drain under{" "}
      {whole(limits.drain_ma, "mA")}
    </>
  ),
  fields: [
    { kind: "volts", name: "idle_volts", label: "Running", unit: "V", wide: 150 },
    { kind: "volts", name: "loaded_volts", label: "Loads on", unit: "V" },
    { kind: "number", name: "drain_ma", label: "Key-off drain", unit: "mA", wide: 124 },
    {
      kind: "flag",
      name: "modules_asleep",
      label: "Modules asleep",
      start: true,
      words: { yes: "modules asleep", no: "modules still awake" },
      say: { letter: "O" },
    },
    {
      kind: "flag",
      name: "clamp_moves",
      label: "Volts jump at a clamp",
      words: { yes: "volts jump at a clamp", no: "clamps hold" },
      say: { letter: "Y" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "unregistered",
      label: "Never registered",
      words: { yes: "never registered", no: "registered, or needs none" },
      say: { letter: "X" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "short_trips",
      label: "Short trips",
      words: { yes: "short trips", no: "longer drives" },
      say: { letter: "Q" },
      odd: (value) => value === "true",
    },
    drop("drop_joint_volts", "post to clamp"),
    drop("drop_ground_volts", "post to chassis"),
    drop("drop_starter_volts", "post to starter"),
    {
      kind: "ticks",
      name: "waits",
      label: "What stop-start waits for",
      words: WAITS,
      fine: "waits_checked",
      wrong: "waits_found",
      when: (_, { complaint }) => complaint === "stop_start_stopped",
    },
  ],
};
