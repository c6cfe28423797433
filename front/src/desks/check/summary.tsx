/** What was read, in one line. */
import type { ReactNode } from "react";
import type { Reading, Schema } from "../../api/client";
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { CLAMPED, CORROSION, MESSAGES, SETTLED, SIGNS, TYPES } from "../../kit/words";

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
