/** What the loads, the charger, the stand and the car are asked, in figures and in words. */
import { Soft } from "../../kit/parts";
import { NEEDLES } from "../../kit/words";
import type { Field, FormProps } from "./fields";
import { temperature, volts, warmth, whole } from "./said";
import type { Spec } from "./spec";

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
