/** What was read, in one line. */
import type { ReactNode } from "react";
import type { Reading, Schema } from "../../api/client";
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { CLAMPED, CORROSION, MESSAGES, SETTLED, SIGNS, TYPES } from "../../kit/words";
import { small, written } from "../../language/catalogue";
import { t } from "../../language/t";

const LEVELS_SEEN = [
  ["plates_bare", t("plates bare")],
  ["low", t("level low")],
  ["over", t("over the mark")],
] as const;

const big = (value: string, rest: ReactNode) => (
  <>
    <Figure>{written(value)}</Figure> <Soft>{rest}</Soft>
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
      ? t(" at {0} {1}", Math.round(shownTemperature(reading.temperature_c, store)), temperatureUnit(store))
      : "";
  switch (reading.kind) {
    case "look": {
      const seen = [...(reading.marks ?? []).map((mark) => SIGNS[mark.sign])];
      if (reading.corrosion && reading.corrosion !== "none")
        seen.push(t("{0} corrosion", small(CORROSION[reading.corrosion])));
      for (const [level, words] of LEVELS_SEEN) {
        const count = (reading.levels ?? []).filter((one) => one === level).length;
        if (count) seen.push(t("{0} in {1}", words, count));
      }
      if (reading.eye) seen.push(t("eye {0}", reading.eye));
      return seen.length ? <b>{seen.join(", ")}</b> : t("Nothing wrong");
    }
    case "rest_volts": {
      const rest = `${small(SETTLED[reading.settled ?? "rested"])}${reading.rested_hours ? ` ${reading.rested_hours} h` : ""}${reading.after_full_charge ? t(" after a full charge") : ""}`;
      return big(reading.volts.toFixed(2), `V${warmth}, ${rest}`);
    }
    case "electronic_tester": {
      if (reading.measured_cca_amps == null)
        return reading.message
          ? big(MESSAGES[reading.message], t("it says, set to {0}", TYPES[reading.type_set]))
          : big(String(reading.resistance_mohm), t("mΩ, set to {0}", TYPES[reading.type_set]));
      const rated = reading.scale_set === (battery.rating?.scale ?? "CCA") ? battery.rating?.amps : undefined;
      const share = rated ? t(" of {0}, {1} %", rated, Math.round((reading.measured_cca_amps / rated) * 100)) : "";
      const own = reading.message ? t(", it says {0}", small(MESSAGES[reading.message])) : "";
      return big(
        String(reading.measured_cca_amps),
        `${reading.scale_set ?? "CCA"}${share}, ${TYPES[reading.type_set]}, ${small(CLAMPED[reading.clamped ?? "lead_posts"])}${own}`,
      );
    }
    case "case_leakage":
      return big(
        reading.volts.toFixed(1),
        t(
          "V on the case{0}{1}",
          (reading.spots?.length ?? 0) > 1 ? t(", worst of {0} places", reading.spots?.length) : "",
          reading.cleaned ? t(", cleaned before") : "",
        ),
      );
    case "cells": {
      const row = reading.specific_gravities?.length ? reading.specific_gravities : (reading.cell_volts ?? []);
      if (says?.figures?.length)
        return big(
          `${Math.min(...says.figures).toFixed(3)}–${Math.max(...says.figures).toFixed(3)}`,
          t(
            "{0} corrected, read {1}–{2}{3}",
            says.reading_text.split(", ")[1] ?? "",
            Math.min(...row).toFixed(3),
            Math.max(...row).toFixed(3),
            warmth,
          ),
        );
      if (reading.bands?.length) return t("{0} green", reading.bands.filter((band) => band === "green").length);
      if (!row.length)
        return t("{0} still on charge", reading.on_charge?.filter((state) => state === "still").length ?? 0);
      return big(
        `${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}`,
        `${warmth.trim()}${reading.after_full_charge ? t(" after a full charge") : ""}`,
      );
    }
    case "adjustable_load":
      return big(reading.volts.toFixed(2), t("V under {0} A for {1} s{2}", reading.amps, reading.seconds, warmth));
    case "fixed_load":
      if (reading.volts == null)
        return big(
          reading.band ?? String(reading.shown_cca_amps),
          t("{0}on its scale under {1} A", reading.band ? "" : t("CCA "), reading.amps ?? 100),
        );
      return big(
        reading.volts.toFixed(1),
        t(
          "V under {0} A for {1} s{2}",
          reading.amps ?? 100,
          reading.seconds,
          reading.bounce_volts ? t(", back to {0} V", reading.bounce_volts) : "",
        ),
      );
    case "crank": {
      const dip = reading.dip_volts != null ? t(", dipped to {0} V", reading.dip_volts.toFixed(1)) : "";
      if (reading.volts == null) return big(String(reading.dip_volts), t("V start dip"));
      return big(reading.volts.toFixed(1), t("V cranking {0} s{1}{2}", reading.seconds, warmth, dip));
    }
    case "reserve":
      return big(
        String(reading.minutes),
        t("min at {0} A to {1} V{2}", reading.amps, reading.volts.toFixed(2), warmth),
      );
    case "charge_run":
      if (reading.amps == null)
        return big(
          reading.volts.toFixed(2),
          t("V from {0} V on a maintainer, {1} h", reading.start_volts ?? "?", reading.hours),
        );
      return big(
        String(reading.amps),
        t(
          "A{0}, {1} V after {2} h{3}",
          reading.start_amps == null ? "" : t(" of {0} A", reading.start_amps),
          reading.volts,
          reading.hours,
          reading.finished ? t(", full and off") : "",
        ),
      );
    case "stand":
      return big(reading.volts.toFixed(2), t("V from {0} V in {1} h", reading.start_volts.toFixed(2), reading.hours));
    case "withdrawal":
      return t("An entry taken back");
    case "car":
      return [
        reading.idle_volts ? t("{0} V running", reading.idle_volts) : "",
        reading.drain_ma != null ? t("drain {0} mA", reading.drain_ma) : "",
        reading.clamp_moves ? t("clamp loose") : "",
        reading.unregistered ? t("not registered") : "",
        reading.short_trips ? t("short trips") : "",
        reading.waits_checked?.length ? t("{0} of 10 looked at", reading.waits_checked.length) : "",
        reading.waits_found?.length ? t("{0} found wrong", reading.waits_found.length) : "",
        reading.drop_joint_volts != null || reading.drop_ground_volts != null || reading.drop_starter_volts != null
          ? t("volt drop read")
          : "",
      ]
        .filter(Boolean)
        .join(", ");
  }
}
