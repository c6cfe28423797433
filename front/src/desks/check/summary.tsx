/** What was read, in one line. */
import type { ReactNode } from "react";
import type { Reading, Schema } from "../../api/client";
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { CLAMPED, CORROSION, MESSAGES, SETTLED, SIGNS, TYPES } from "../../kit/words";

const LEVELS_SEEN = [
  ["plates_bare", "plates bare"],
  ["low", "level low"],
  ["over", "over the mark"],
] as const;

const big = (value: string, rest: ReactNode) => (
  <>
    <Figure>{value}</Figure> <Soft>{rest}</Soft>
  </>
);

/** What was read, in one line. */
export function summaryOf(
  reading: Reading,
  battery: Schema["Battery"],
  store: Schema["StoreView"],
  says?: Schema["Finding"],
): ReactNode {
  const warmth =
    "temperature_c" in reading && reading.temperature_c != null
      ? ` at ${Math.round(shownTemperature(reading.temperature_c, store))} ${temperatureUnit(store)}`
      : "";
  switch (reading.kind) {
    case "look": {
      const seen = [...(reading.marks ?? []).map((mark) => SIGNS[mark.sign])];
      if (reading.corrosion && reading.corrosion !== "none")
        seen.push(`${CORROSION[reading.corrosion].toLowerCase()} corrosion`);
      for (const [level, words] of LEVELS_SEEN) {
        const count = (reading.levels ?? []).filter((one) => one === level).length;
        if (count) seen.push(`${words} in ${count}`);
      }
      if (reading.eye) seen.push(`eye ${reading.eye}`);
      return seen.length ? <b>{seen.join(", ")}</b> : "Nothing wrong";
    }
    case "rest_volts": {
      const rest = `${SETTLED[reading.settled ?? "rested"].toLowerCase()}${reading.rested_hours ? ` ${reading.rested_hours} h` : ""}${reading.after_full_charge ? " after a full charge" : ""}`;
      return big(reading.volts.toFixed(2), `V${warmth}, ${rest}`);
    }
    case "electronic_tester": {
      if (reading.measured_cca_amps == null)
        return reading.message
          ? big(MESSAGES[reading.message], `it says, set to ${TYPES[reading.type_set]}`)
          : big(String(reading.resistance_mohm), `mΩ, set to ${TYPES[reading.type_set]}`);
      const rated = reading.scale_set === (battery.rating?.scale ?? "CCA") ? battery.rating?.amps : undefined;
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
      if (says?.figures?.length)
        return big(
          `${Math.min(...says.figures).toFixed(3)}–${Math.max(...says.figures).toFixed(3)}`,
          `${says.reading_text.split(", ")[1] ?? ""} corrected, read ${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}${warmth}`,
        );
      if (reading.bands?.length) return `${reading.bands.filter((band) => band === "green").length} green`;
      if (!row.length) return `${reading.on_charge?.filter((state) => state === "still").length ?? 0} still on charge`;
      return big(
        `${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}`,
        `${warmth.trim()}${reading.after_full_charge ? " after a full charge" : ""}`,
      );
    }
    case "adjustable_load":
      return big(reading.volts.toFixed(2), `V under ${reading.amps} A for ${reading.seconds} s${warmth}`);
    case "fixed_load":
      if (reading.volts == null)
        return big(
          reading.band ?? String(reading.shown_cca_amps),
          `${reading.band ? "" : "CCA "}on its scale under ${reading.amps ?? 100} A`,
        );
      return big(
        reading.volts.toFixed(1),
        `V under ${reading.amps ?? 100} A for ${reading.seconds} s${reading.bounce_volts ? `, back to ${reading.bounce_volts} V` : ""}`,
      );
    case "crank": {
      const dip = reading.dip_volts != null ? `, dipped to ${reading.dip_volts.toFixed(1)} V` : "";
      if (reading.volts == null) return big(String(reading.dip_volts), "V start dip");
      return big(reading.volts.toFixed(1), `V cranking ${reading.seconds} s${warmth}${dip}`);
    }
    case "reserve":
      return big(String(reading.minutes), `min at ${reading.amps} A to ${reading.volts.toFixed(2)} V${warmth}`);
    case "charge_run":
      if (reading.amps == null)
        return big(
          reading.volts.toFixed(2),
          `V from ${reading.start_volts ?? "?"} V on a maintainer, ${reading.hours} h`,
        );
      return big(
        String(reading.amps),
        `A${reading.start_amps == null ? "" : ` of ${reading.start_amps} A`}, ${reading.volts} V after ${reading.hours} h${reading.finished ? ", full and off" : ""}`,
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
        reading.waits_checked?.length ? `${reading.waits_checked.length} of 10 looked at` : "",
        reading.waits_found?.length ? `${reading.waits_found.length} found wrong` : "",
        reading.drop_joint_volts != null || reading.drop_ground_volts != null || reading.drop_starter_volts != null
          ? "volt drop read"
          : "",
      ]
        .filter(Boolean)
        .join(", ");
  }
}
