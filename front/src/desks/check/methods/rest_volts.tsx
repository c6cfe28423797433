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
      {t("Judged from")} {volts(limits.recharge_line_volts)} {t("up. Rested")}{" "}
      {limits.rest_hours > 0 && (
        <>
          {whole(limits.rest_hours, "h")}
          {t(", or")}{" "}
        </>
      )}
      {whole(limits.headlamp_seconds / 60, t("min"))} {t("of headlamps")}
    </>
  ),
  timer: ({ limits, due }, values) =>
    due === "measure_after_pull"
      ? { seconds: limits.load_wait_minutes * 60, label: t("Since the pull") }
      : settledIs(values, "headlamps")
        ? { seconds: limits.headlamp_seconds, label: t("Headlamps on") }
        : null,
  fields: [
    {
      kind: "volts",
      name: "volts",
      label: t("Volts at rest"),
      unit: "V",
      needed: true,
      placeholder: "12.58",
      tenths: true,
    },
    {
      kind: "choice",
      name: "settled",
      label: t("How it settled"),
      words: SETTLED,
      start: "rested",
      say: { letter: "Y" },
    },
    {
      kind: "number",
      name: "rested_hours",
      label: t("Hours of rest"),
      unit: "h",
      say: { before: t("for"), empty: t("hours nobody counted"), letter: "O" },
      when: (values) => settledIs(values, "rested"),
    },
    temperature,
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("After a full charge"),
      words: { yes: t("after a full charge"), no: t("not after a charge") },
      say: { letter: "X" },
      when: (values) => !settledIs(values, "just_charged"),
    },
    {
      kind: "choice",
      name: "meter_range",
      label: t("Range of the meter"),
      words: { "20_v": t("20 V range"), "200_v": t("200 V range"), "600_v": t("600 V range") },
      start: "20_v",
      say: { before: t("on the"), rare: true },
      odd: (value) => value !== "20_v",
    },
    {
      kind: "flag",
      name: "confirmed",
      label: t("Cleaned and measured again, the same"),
      when: (values, { says }) => says?.rule === "rest.doubt_below_volts" || values["confirmed"] === true,
    },
  ],
};

export const RUNG: Rung<"rest_volts"> = {
  letter: "V",
  quiet: t("settled, at rest"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    const rest = `${small(SETTLED[reading.settled ?? "rested"])}${reading.rested_hours ? ` ${reading.rested_hours} h` : ""}${reading.after_full_charge ? t(" after a full charge") : ""}`;
    return big(reading.volts.toFixed(2), `V${at}, ${rest}`);
  },
};
