/** Its rung: volts at rest. */
import type { Schema } from "../../../api/client";
import { nowMs } from "../../../kit/clock";
import { SETTLED } from "../../../kit/words";
import { temperature, volts, whole } from "../said";
import { small } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const settledIs = (values: Record<string, unknown>, what: Schema["Settled"]) => values["settled"] === what;

const SPEC: Spec<"rest_volts"> = {
  // straight off the charger nobody's word makes a rest of it
  starts: ({ limits }): Record<string, string> =>
    limits.off_charge_until !== null && nowMs() < Date.parse(limits.off_charge_until)
      ? { settled: "just_charged" }
      : {},
  asks: ({ limits }) => (
    <>
      {t("rest_volts.judged_from")} {volts(limits.recharge_line_volts)} {t("rest_volts.up_rested")}{" "}
      {limits.rest_hours > 0 && (
        <>
          {whole(limits.rest_hours, "h")}
          {t("rest_volts.or")}{" "}
        </>
      )}
      {whole(limits.headlamp_seconds / 60, t("screens.min_2"))} {t("rest_volts.of_headlamps")}
    </>
  ),
  timer: ({ limits, due }, values) =>
    due === "measure_after_pull"
      ? { seconds: limits.load_wait_minutes * 60, label: t("rest_volts.since_the_pull") }
      : settledIs(values, "headlamps")
        ? { seconds: limits.headlamp_seconds, label: t("rest_volts.headlamps_on") }
        : null,
  fields: [
    {
      kind: "volts",
      name: "volts",
      label: t("rest_volts.volts_at_rest"),
      unit: "V",
      needed: true,
      placeholder: "12.58",
      tenths: true,
    },
    {
      kind: "choice",
      name: "settled",
      label: t("rest_volts.how_it_settled"),
      words: SETTLED,
      start: "rested",
      say: { letter: "Y" },
    },
    {
      kind: "number",
      name: "rested_hours",
      label: t("rest_volts.hours_of_rest"),
      unit: "h",
      say: { before: t("screens.for"), empty: t("rest_volts.hours_nobody_counted"), letter: "O" },
      when: (values) => settledIs(values, "rested"),
    },
    temperature,
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("screens.after_a_full_charge"),
      words: { yes: t("screens.after_a_full_charge_2"), no: t("screens.not_after_a_charge") },
      say: { letter: "X" },
      when: (values) => !settledIs(values, "just_charged"),
    },
    {
      kind: "choice",
      name: "meter_range",
      label: t("rest_volts.range_of_the_meter"),
      words: {
        "20_v": t("rest_volts.20_v_range"),
        "200_v": t("rest_volts.200_v_range"),
        "600_v": t("rest_volts.600_v_range"),
      },
      start: "20_v",
      say: { before: t("rest_volts.on_the"), rare: true },
      odd: (value) => value !== "20_v",
    },
    {
      kind: "flag",
      name: "confirmed",
      label: t("rest_volts.cleaned_and_measured_again_the_same"),
      when: (values, { says }) => says?.rule === "rest.doubt_below_volts" || values["confirmed"] === true,
    },
  ],
};

export const RUNG: Rung<"rest_volts"> = {
  letter: "V",
  quiet: t("rest_volts.settled_at_rest"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    const rest = `${small(SETTLED[reading.settled ?? "rested"])}${reading.rested_hours ? ` ${reading.rested_hours} h` : ""}${reading.after_full_charge ? t("screens.after_a_full_charge_3") : ""}`;
    return big(reading.volts.toFixed(2), `V${at}, ${rest}`);
  },
};
