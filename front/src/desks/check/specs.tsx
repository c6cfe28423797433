/** What each rung asks, in figures and in words. */
import type { Schema } from "../../api/client";
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { CELL_STATES, CLAMPED, MESSAGES, NEEDLES, SETTLED, TYPES } from "../../kit/words";
import type { Field, FormProps } from "./fields";
import type { Spec } from "./spec";

const at = { before: "battery at", empty: "a temperature nobody took", letter: "Q" };
const temperature: Field = { kind: "temperature", name: "temperature_c", label: "Battery at", say: at };

const volts = (value: number, digits = 2) => (
  <>
    <Figure>{value.toFixed(digits)}</Figure> <Soft>V</Soft>
  </>
);
const whole = (value: number, unit: string) => (
  <>
    <Figure>{Math.round(value * 100) / 100}</Figure> <Soft>{unit}</Soft>
  </>
);
const warmth = ({ limits: { load }, store }: FormProps) =>
  `${Math.round(shownTemperature(load.temperature_c, store))} ${temperatureUnit(store)}`;

const settledIs = (values: Record<string, unknown>, what: Schema["Settled"]) => values["settled"] === what;

export const VOLTS: Spec = {
  asks: ({ limits }) => (
    <>
      Judged from {volts(limits.recharge_line_volts)} up. Rested{" "}
      {limits.rest_hours > 0 && <>{whole(limits.rest_hours, "h")}, or </>}
      {whole(limits.headlamp_seconds / 60, "min")} of headlamps
    </>
  ),
  timer: ({ limits }, values) =>
    settledIs(values, "headlamps") ? { seconds: limits.headlamp_seconds, label: "Headlamps on" } : null,
  fields: [
    { kind: "volts", name: "volts", label: "Volts at rest", unit: "V", needed: true, placeholder: "12.58" },
    { kind: "choice", name: "settled", label: "How it settled", words: SETTLED, start: "rested", say: { letter: "Y" } },
    {
      kind: "number",
      name: "rested_hours",
      label: "Hours of rest",
      unit: "h",
      say: { before: "for", empty: "hours nobody counted", letter: "O" },
      when: (values) => settledIs(values, "rested"),
    },
    temperature,
    {
      kind: "flag",
      name: "after_full_charge",
      label: "After a full charge",
      words: { yes: "after a full charge", no: "not after a charge" },
      say: { letter: "X" },
      when: (values) => !settledIs(values, "just_charged"),
    },
    {
      kind: "flag",
      name: "confirmed",
      label: "Cleaned and measured again, the same",
      when: (values, { says }) => says?.rule === "doubt_below_volts" || values["confirmed"] === true,
    },
  ],
};

const TYPE_OF: Record<Schema["Chemistry"], Schema["TypeSet"]> = {
  flooded: "flooded",
  calcium: "flooded",
  efb: "efb",
  agm: "agm_flat",
  gel: "gel",
};
const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" };
const typeOf = ({ battery }: FormProps) => TYPE_OF[battery.chemistry ?? "flooded"];
const scaleOf = ({ battery }: FormProps) => battery.rating?.scale ?? "CCA";
const isYes = (value: string) => value === "yes";
const yesOf = (yes: boolean | undefined) => (kept: unknown) => ((kept ?? yes) ? "yes" : "no");
const orNone = (none: string) => ({
  out: (value: string) => (value === none ? null : value),
  back: (kept: unknown) => (kept == null ? none : String(kept)),
});

export const TESTER: Spec = {
  asks: ({ limits, battery }) =>
    limits.replace_below_amps === null ? (
      "No rated figure on record: correct the label, or the tester has nothing to be held against."
    ) : (
      <>
        Held against {limits.rating_words}: replace below{" "}
        {whole(Math.round(limits.replace_below_amps), scaleOf({ battery } as FormProps))}
      </>
    ),
  starts: (props) => ({ type_set: typeOf(props), scale_set: scaleOf(props) }),
  fields: [
    { kind: "number", name: "measured_cca_amps", label: "Measured", unit: "A", needed: true, placeholder: "412" },
    {
      kind: "choice",
      name: "type_set",
      label: "Tester set to",
      words: TYPES,
      start: "flooded",
      say: { before: "set to", letter: "Y" },
      odd: (value, props) => !value.startsWith(typeOf(props).slice(0, 3)),
    },
    {
      kind: "choice",
      name: "scale_set",
      label: "Scale set",
      words: SCALES,
      start: "CCA",
      say: { before: "in", letter: "X" },
      odd: (value, props) => value !== scaleOf(props),
    },
    {
      kind: "choice",
      name: "clamped",
      label: "Clamped on",
      words: CLAMPED,
      start: "lead_posts",
      say: { before: "on", letter: "O" },
      odd: (value) => value !== "lead_posts",
    },
    {
      kind: "choice",
      name: "posts_clean",
      label: "Posts",
      words: { yes: "Clean", no: "Corroded" },
      start: "yes",
      out: isYes,
      back: yesOf(true),
      say: { before: "posts", letter: "Q" },
      odd: (value, { seen }) => (seen?.corrosion === "heavy") === isYes(value) && seen !== undefined,
    },
    {
      kind: "choice",
      name: "in_vehicle",
      label: "Tested",
      words: { no: "Out of the car", yes: "In the car" },
      start: "no",
      out: isYes,
      back: yesOf(false),
      say: {},
    },
    {
      kind: "choice",
      name: "charge_setting",
      label: "It was set",
      words: { unset: "Not asked when", before: "Before a charge", after: "After a charge" },
      start: "unset",
      ...orNone("unset"),
      say: {},
    },
    {
      kind: "choice",
      name: "message",
      label: "Its own message",
      words: { none: "Nothing", ...MESSAGES },
      start: "none",
      ...orNone("none"),
      say: { before: "it says", letter: "J" },
    },
    {
      kind: "number",
      name: "health_pct",
      label: "Its health",
      unit: "%",
      say: { before: "health", empty: "not shown" },
    },
    {
      kind: "number",
      name: "state_of_charge_pct",
      label: "Its charge",
      unit: "%",
      say: { before: "charge", empty: "not shown" },
    },
    {
      kind: "number",
      name: "rated_set_amps",
      label: "Rated figure set",
      unit: "A",
      say: { before: "rated set", empty: "as on the label" },
      odd: (value, { battery }) => value !== "" && Number(value) !== battery.rating?.amps,
    },
  ],
};

export const CELLS: Spec = {
  asks: ({ limits }) => (
    <>
      Healthy from <Figure>{limits.gravity_healthy.toFixed(3)}</Figure> after a charge; a cell{" "}
      <Figure>{limits.gravity_spread.toFixed(3)}</Figure> or {volts(limits.cell_suspect_volts)} under the best is
      failing or suspect
    </>
  ),
  fields: [
    { kind: "cells", name: "specific_gravities", label: "Gravity", placeholder: "1265" },
    temperature,
    {
      kind: "flag",
      name: "after_full_charge",
      label: "After a full charge",
      words: { yes: "after a full charge", no: "not after a charge" },
      say: { letter: "X" },
    },
    {
      kind: "flag",
      name: "equalised",
      label: "Equalised before",
      words: { yes: "equalised before", no: "not equalised" },
      say: { letter: "Y" },
    },
    { kind: "cells", name: "cell_volts", label: "Cell volts, trained hands only", placeholder: "2.10" },
    { kind: "cell choice", name: "on_charge", label: "On charge", words: CELL_STATES },
  ],
};

const setLoad = (props: FormProps) => {
  const { load } = props.limits;
  if (load.amps === null) return "No rating and no Ah on record: correct the label to size the pull.";
  return (
    <>
      Set {whole(Math.round(load.amps), "A")} for {whole(load.seconds, "s")}: must hold {volts(load.min_volts)}{" "}
      <Soft>
        at {warmth(props)}
        {load.can_pass ? "" : "; this load can only fail it"}
      </Soft>
    </>
  );
};

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
    {
      kind: "choice",
      name: "needle",
      label: "The volts",
      words: NEEDLES,
      start: "held",
      say: { before: "it", letter: "X" },
    },
    temperature,
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
  fields: [
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V", needed: true },
    { kind: "volts", name: "bounce_volts", label: "Came back to", unit: "V", wide: 132 },
    { kind: "number", name: "amps", label: "It draws", unit: "A", say: { before: "drew", letter: "Y" } },
    held("for"),
    temperature,
  ],
};

export const CRANK: Spec = {
  asks: (props) => (
    <>
      Crank, read when the speed is steady: must hold {volts(props.limits.crank.min_volts, 1)}{" "}
      <Soft>at {warmth(props)}</Soft>
    </>
  ),
  starts: ({ limits }) => ({ seconds: String(limits.crank.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.crank.seconds }),
  fields: [
    { kind: "volts", name: "volts", label: "Volts cranking", unit: "V", needed: true },
    {
      kind: "flag",
      name: "engine_disabled",
      label: "Engine disabled",
      start: true,
      words: { yes: "engine disabled", no: "engine free to start" },
      say: { letter: "Y" },
    },
    held("cranked"),
    temperature,
  ],
};

export const CHARGE: Spec = {
  asks: ({ limits }) => (
    <>
      Amps should fall and volts come up to {volts(limits.charge_reaches_volts, 1)}. Amps that stay for hours below it
      mark a shorted cell: stop.
    </>
  ),
  fields: [
    { kind: "number", name: "amps", label: "Amps now", unit: "A", needed: true },
    { kind: "volts", name: "volts", label: "Volts now", unit: "V" },
    { kind: "number", name: "start_amps", label: "At the start", unit: "A" },
    { kind: "number", name: "hours", label: "On charge", unit: "h" },
    {
      kind: "flag",
      name: "finished",
      label: "Full and taken off",
      words: { yes: "full and taken off", no: "still on charge" },
      say: { letter: "Y" },
    },
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
  ],
};
