/** Its rung: a charge, beside its plan and its curve. */
import { nowMs } from "../../../kit/clock";
import { localFigure } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { ChargeCurve, PlanLines } from "../ChargeCurve";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"charge_run"> = {
  starts: ({ stay, before }) => ({
    start_amps: before?.[0]?.["minutes"] === 0 ? String(before[0]["amps"]) : "",
    hours: stay ? localFigure(((nowMs() - Date.parse(stay.connected_at)) / 3_600_000).toFixed(1)) : "",
  }),
  asks: ({ limits, complaint }) => <PlanLines limits={limits} complaint={complaint} />,
  draws: ({ limits, battery, says }, values) => (
    <ChargeCurve plan={limits.plan} values={values} ah={battery.capacity_ah_20h} put={says?.figures?.[0]} />
  ),
  enough: (body) => body["volts"] !== undefined && (body["amps"] != null || body["start_volts"] != null),
  fields: [
    { kind: "number", name: "amps", label: t("Amps now"), unit: "A", wide: 118 },
    { kind: "volts", name: "volts", label: t("Volts now"), unit: "V", wide: 104 },
    { kind: "number", name: "start_amps", label: t("At the start"), unit: "A", wide: 96 },
    { kind: "number", name: "hours", label: t("On charge"), unit: "h", wide: 96 },
    {
      kind: "flag",
      name: "finished",
      label: t("Full and taken off"),
      words: { yes: t("full and taken off"), no: t("still on charge") },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "recovery",
      label: t("Recovery charge"),
      words: { yes: t("a recovery charge"), no: t("an ordinary charge") },
      say: { letter: "X", rare: true },
    },
    {
      kind: "volts",
      name: "start_volts",
      label: t("Volts before"),
      unit: "V",
      say: { before: t("on a maintainer from"), empty: t("volts before"), letter: "Q", rare: true },
    },
    {
      kind: "number",
      name: "ah_in",
      label: t("Ah put in"),
      unit: t("Ah"),
      say: { before: t("put in"), empty: t("Ah not read"), rare: true },
    },
    { kind: "log", of: "amps", name: "log", label: t("On the way") },
  ],
};

export const RUNG: Rung<"charge_run"> = {
  letter: "H",
  quiet: t("amps and volts at the charger"),
  Form: rungForm(SPEC),
  summary: (reading) => {
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
  },
};
