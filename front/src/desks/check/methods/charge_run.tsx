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
    { kind: "number", name: "amps", label: t("charge_run.amps_now"), unit: "A", wide: 118 },
    { kind: "volts", name: "volts", label: t("screens.volts_now"), unit: "V", wide: 104 },
    { kind: "number", name: "start_amps", label: t("screens.at_the_start"), unit: "A", wide: 96 },
    { kind: "number", name: "hours", label: t("screens.on_charge"), unit: "h", wide: 96 },
    {
      kind: "flag",
      name: "finished",
      label: t("charge_run.full_and_taken_off"),
      words: { yes: t("charge_run.full_and_taken_off_2"), no: t("charge_run.still_on_charge") },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "recovery",
      label: t("charge_run.recovery_charge"),
      words: { yes: t("charge_run.a_recovery_charge"), no: t("charge_run.an_ordinary_charge") },
      say: { letter: "X", rare: true },
    },
    {
      kind: "volts",
      name: "start_volts",
      label: t("charge_run.volts_before"),
      unit: "V",
      say: {
        before: t("charge_run.on_a_maintainer_from"),
        empty: t("charge_run.volts_before_2"),
        letter: "Q",
        rare: true,
      },
    },
    {
      kind: "number",
      name: "ah_in",
      label: t("charge_run.ah_put_in"),
      unit: t("charge_run.ah"),
      say: { before: t("charge_run.put_in"), empty: t("charge_run.ah_not_read"), rare: true },
    },
    { kind: "log", of: "amps", name: "log", label: t("screens.on_the_way") },
  ],
};

export const RUNG: Rung<"charge_run"> = {
  letter: "H",
  quiet: t("charge_run.amps_and_volts_at_the_charger"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    if (reading.amps == null)
      return big(
        reading.volts.toFixed(2),
        t("charge_run.v_from_v_on_a_maintainer_h", { start_volts: reading.start_volts ?? "?", hours: reading.hours }),
      );
    return big(
      String(reading.amps),
      t("charge_run.a_v_after_h", {
        from_amps: reading.start_amps == null ? "" : t("charge_run.of_a_2", { start_amps: reading.start_amps }),
        volts: reading.volts,
        hours: reading.hours,
        full: reading.finished ? t("charge_run.full_and_off_2") : "",
      }),
    );
  },
};
