/** The rungs in the order of work: what each asks, its key, and how it says in one line what was read. */
import type { ComponentType, ReactNode } from "react";
import type { Reading, Schema } from "../../api/client";
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { CELL_STATES, CLAMPED, CORROSION, MESSAGES, NEEDLES, SETTLED, SIGNS, TYPES } from "../../kit/words";
import { TesterForm, VoltsForm } from "./forms";
import { LeakageForm } from "./LeakageForm";
import { LookForm } from "./LookForm";
import { SpecForm, type FormProps, type Spec } from "./spec";

export type Kind = NonNullable<Reading["kind"]>;

export interface RungOf {
  kind: Kind;
  letter: string;
  title: string;
  quiet: string;
  Form: ComponentType<FormProps>;
}

const temperature = { kind: "temperature", name: "temperature_c", label: "Battery at" } as const;

function fromSpec(spec: Spec): ComponentType<FormProps> {
  return function Described(props: FormProps) {
    return <SpecForm spec={spec} {...props} />;
  };
}

const volts = (value: number, digits = 2) => (
  <>
    <Figure>{value.toFixed(digits)}</Figure> <Soft>V</Soft>
  </>
);

const CELLS: Spec = {
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
    { kind: "flag", name: "after_full_charge", label: "After a full charge" },
    { kind: "flag", name: "equalised", label: "Equalised before" },
    { kind: "cells", name: "cell_volts", label: "Cell volts, trained hands only", placeholder: "2.10" },
    { kind: "cell choice", name: "on_charge", label: "On charge", words: CELL_STATES },
  ],
};

const setLoad = ({ limits, store }: FormProps) => {
  const { load } = limits;
  if (load.amps === null) return "No rating and no Ah on record: correct the label to size the pull.";
  return (
    <>
      set <Figure>{Math.round(load.amps)}</Figure> <Soft>A</Soft> for <Figure>{load.seconds}</Figure> <Soft>s</Soft>,
      must hold <Figure>{load.min_volts.toFixed(2)}</Figure>{" "}
      <Soft>
        V at {Math.round(shownTemperature(load.temperature_c, store))} {temperatureUnit(store)}
        {load.can_pass ? "" : "; this load can only fail it"}
      </Soft>
    </>
  );
};

const PULL: Spec = {
  asks: setLoad,
  starts: ({ limits }) => ({
    amps: limits.load.amps === null ? "" : String(Math.round(limits.load.amps)),
    seconds: String(limits.load.seconds),
  }),
  seconds: ({ limits }) => limits.load.seconds,
  between: ({ limits }) => limits.load_wait_minutes,
  fields: [
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V", needed: true },
    { kind: "number", name: "amps", label: "Drawn", unit: "A" },
    { kind: "number", name: "seconds", label: "Held", unit: "s" },
    temperature,
    { kind: "choice", name: "needle", label: "The volts", words: NEEDLES, start: "held" },
  ],
};

const FIXED: Spec = {
  asks: ({ limits: { fixed } }) => (
    <>
      {fixed.seconds} s, read at the end: good above {volts(fixed.good_volts, 1)}, floor {volts(fixed.floor_volts, 1)};
      must come back to {volts(fixed.bounce_volts, 1)}
      {fixed.can_pass ? "" : ". It can fail this battery, never pass it"}
    </>
  ),
  starts: ({ limits: { fixed } }) => ({ amps: String(fixed.amps), seconds: String(fixed.seconds) }),
  seconds: ({ limits }) => limits.fixed.seconds,
  fields: [
    { kind: "volts", name: "volts", label: "Volts at the end", unit: "V", needed: true },
    { kind: "number", name: "amps", label: "It draws", unit: "A" },
    { kind: "number", name: "seconds", label: "Held", unit: "s" },
    { kind: "volts", name: "bounce_volts", label: "Came back to", unit: "V" },
    temperature,
  ],
};

const CRANK: Spec = {
  asks: ({ limits: { crank, load }, store }) => (
    <>
      Engine disabled. Crank, read when the speed is steady: must hold {volts(crank.min_volts, 1)}{" "}
      <Soft>
        at {Math.round(shownTemperature(load.temperature_c, store))} {temperatureUnit(store)}
      </Soft>
    </>
  ),
  starts: ({ limits }) => ({ seconds: String(limits.crank.seconds) }),
  seconds: ({ limits }) => limits.crank.seconds,
  fields: [
    { kind: "volts", name: "volts", label: "Volts cranking", unit: "V", needed: true },
    { kind: "number", name: "seconds", label: "Cranked", unit: "s" },
    temperature,
    { kind: "flag", name: "engine_disabled", label: "Engine disabled", start: true },
  ],
};

const CHARGE: Spec = {
  asks: ({ limits }) => (
    <>
      Amps should fall and volts come up to {volts(limits.charge_reaches_volts, 1)}. Amps that stay for hours below it
      mark a shorted cell: stop.
    </>
  ),
  fields: [
    { kind: "number", name: "amps", label: "Amps now", unit: "A", needed: true },
    { kind: "number", name: "start_amps", label: "At the start", unit: "A", wide: 110 },
    { kind: "volts", name: "volts", label: "Volts now", unit: "V" },
    { kind: "number", name: "hours", label: "On charge", unit: "h" },
    { kind: "flag", name: "finished", label: "Full and taken off" },
  ],
};

const STAND: Spec = {
  asks: ({ limits }) => (
    <>
      After a full charge, off everything: must hold {volts(limits.recharge_line_volts)} for{" "}
      <Figure>{limits.stand_hours}</Figure> <Soft>h; a good one loses {limits.own_loss_pct_per_month} % a month</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "volts", label: "Volts now", unit: "V", needed: true },
    { kind: "volts", name: "start_volts", label: "At the start", unit: "V", wide: 112 },
    { kind: "number", name: "hours", label: "It stood", unit: "h" },
    temperature,
  ],
};

const CAR: Spec = {
  asks: ({ limits }) => (
    <>
      Running {volts(limits.running_low_volts, 1)} to {volts(limits.running_high_volts, 1)}, key-off drain under{" "}
      <Figure>{limits.drain_ma}</Figure> <Soft>mA</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "idle_volts", label: "Running", unit: "V" },
    { kind: "volts", name: "loaded_volts", label: "Loads on", unit: "V" },
    { kind: "number", name: "drain_ma", label: "Key-off drain", unit: "mA", wide: 124 },
    { kind: "flag", name: "modules_asleep", label: "Modules asleep", start: true },
    { kind: "flag", name: "clamp_moves", label: "Volts jump at a clamp" },
    { kind: "flag", name: "unregistered", label: "Never registered" },
    { kind: "flag", name: "short_trips", label: "Short trips" },
  ],
};

export const RUNGS: RungOf[] = [
  { kind: "look", letter: "L", title: "Look", quiet: "case, posts, smell, level", Form: LookForm },
  { kind: "case_leakage", letter: "E", title: "Leakage", quiet: "a wet dirty top", Form: LeakageForm },
  { kind: "rest_volts", letter: "V", title: "Volts", quiet: "settled, at rest", Form: VoltsForm },
  { kind: "cells", letter: "G", title: "Cells", quiet: "gravity of each, where there are caps", Form: fromSpec(CELLS) },
  { kind: "electronic_tester", letter: "T", title: "Tester", quiet: "electronic, on the lead posts", Form: TesterForm },
  { kind: "adjustable_load", letter: "P", title: "Pull", quiet: "with the adjustable load", Form: fromSpec(PULL) },
  { kind: "fixed_load", letter: "F", title: "Fixed load", quiet: "with the small resistor", Form: fromSpec(FIXED) },
  { kind: "crank", letter: "K", title: "Crank", quiet: "in the car, engine disabled", Form: fromSpec(CRANK) },
  { kind: "charge_run", letter: "H", title: "Charge", quiet: "amps and volts at the charger", Form: fromSpec(CHARGE) },
  { kind: "stand", letter: "D", title: "Stand", quiet: "off everything after a full charge", Form: fromSpec(STAND) },
  { kind: "car", letter: "A", title: "The car", quiet: "charging, clamps, drain", Form: fromSpec(CAR) },
];

/** Which rung a next step opens. */
export const DUE: Record<Schema["StepKey"], Kind | null> = {
  look: "look",
  hold_apart: null,
  measure_volts: "rest_volts",
  measure_again: "rest_volts",
  settle: "rest_volts",
  read_label: null,
  tester: "electronic_tester",
  tester_again: "electronic_tester",
  load_test: "adjustable_load",
  load_again: "adjustable_load",
  clean_posts: "electronic_tester",
  clean_top: "case_leakage",
  top_up: null,
  cells: "cells",
  equalise: null,
  stand: "stand",
  stop_charge: null,
  charge_and_retest: null,
  replace: null,
  retest_later: null,
  give_back: null,
};

/**
 * Which rung takes the next keys while the server has not said so: from the look to the volts, from the volts to what this
 * house decides by, unless they are so low that it is charged first.
 */
export function likelyNext(
  reading: Reading,
  view: Schema["CheckView"],
  deciding: Kind[],
  done: (kind: Kind) => boolean,
): Kind | null {
  if (reading.kind === "look") return (reading.marks ?? []).length > 0 || done("rest_volts") ? null : "rest_volts";
  if (reading.kind !== "rest_volts" || reading.volts < view.limits.recharge_line_volts) return null;
  return deciding.find((kind) => !done(kind)) ?? null;
}

const big = (value: string, rest: ReactNode) => (
  <>
    <Figure>{value}</Figure> <Soft>{rest}</Soft>
  </>
);

/** What was read, in one line. */
export function summaryOf(reading: Reading, battery: Schema["Battery"], store: Schema["StoreView"]): ReactNode {
  const warmth =
    "temperature_c" in reading && reading.temperature_c != null
      ? ` at ${Math.round(shownTemperature(reading.temperature_c, store))} ${temperatureUnit(store)}`
      : "";
  switch (reading.kind) {
    case "look": {
      const seen = [...(reading.marks ?? []).map((mark) => SIGNS[mark.sign])];
      if (reading.corrosion && reading.corrosion !== "none")
        seen.push(`${CORROSION[reading.corrosion].toLowerCase()} corrosion`);
      const bare = (reading.levels ?? []).filter((level) => level === "plates_bare").length;
      if (bare) seen.push(`plates bare in ${bare}`);
      if (reading.eye) seen.push(`eye ${reading.eye}`);
      return seen.length ? <b>{seen.join(", ")}</b> : "Nothing wrong";
    }
    case "rest_volts": {
      const rest = `${SETTLED[reading.settled ?? "rested"].toLowerCase()}${reading.rested_hours ? ` ${reading.rested_hours} h` : ""}${reading.after_full_charge ? " after a full charge" : ""}`;
      return big(reading.volts.toFixed(2), `V${warmth}, ${rest}`);
    }
    case "electronic_tester": {
      const rated = battery.rating?.amps;
      const share = rated ? ` of ${rated}, ${Math.round((reading.measured_cca_amps / rated) * 100)} %` : "";
      const own = reading.message ? `, it says ${MESSAGES[reading.message].toLowerCase()}` : "";
      return big(
        String(reading.measured_cca_amps),
        `${reading.scale_set ?? "CCA"}${share}, ${TYPES[reading.type_set]}, ${CLAMPED[reading.clamped ?? "lead_posts"].toLowerCase()}${own}`,
      );
    }
    case "case_leakage":
      return big(
        reading.volts.toFixed(1),
        `V on the case${(reading.spots?.length ?? 0) > 1 ? `, worst of ${reading.spots?.length} places` : ""}${reading.cleaned ? ", cleaned before" : ""}`,
      );
    case "cells": {
      const row = reading.specific_gravities?.length ? reading.specific_gravities : (reading.cell_volts ?? []);
      if (!row.length) return `${reading.on_charge?.filter((state) => state === "still").length ?? 0} still on charge`;
      return big(
        `${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}`,
        `${warmth.trim()}${reading.after_full_charge ? " after a full charge" : ""}`,
      );
    }
    case "adjustable_load":
      return big(reading.volts.toFixed(2), `V under ${reading.amps} A for ${reading.seconds} s${warmth}`);
    case "fixed_load":
      return big(
        reading.volts.toFixed(1),
        `V under ${reading.amps ?? 100} A for ${reading.seconds} s${reading.bounce_volts ? `, back to ${reading.bounce_volts} V` : ""}`,
      );
    case "crank":
      return big(reading.volts.toFixed(1), `V cranking ${reading.seconds} s${warmth}`);
    case "charge_run":
      return big(
        String(reading.amps),
        `A of ${reading.start_amps} A, ${reading.volts} V after ${reading.hours} h${reading.finished ? ", full and off" : ""}`,
      );
    case "stand":
      return big(reading.volts.toFixed(2), `V from ${reading.start_volts.toFixed(2)} V in ${reading.hours} h`);
    case "withdrawal":
      return "An entry taken back";
    case "car":
      return [
        reading.idle_volts ? `${reading.idle_volts} V running` : "",
        reading.drain_ma != null ? `drain ${reading.drain_ma} mA` : "",
        reading.clamp_moves ? "clamp loose" : "",
        reading.unregistered ? "not registered" : "",
        reading.short_trips ? "short trips" : "",
      ]
        .filter(Boolean)
        .join(", ");
  }
}
