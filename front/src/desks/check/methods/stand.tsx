/** Its rung: a stand off everything. */
import { Soft } from "../../../kit/parts";
import { temperature, volts, whole } from "../said";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"stand"> = {
  asks: ({ limits }) => (
    <>
      {t("After a full charge, off everything: must hold")} {volts(limits.recharge_line_volts)} {t("for")}{" "}
      {whole(limits.stand_hours, "h")}{" "}
      <Soft>{t("; a good one loses {0} % a month", limits.own_loss_pct_per_month)}</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "volts", label: t("Volts now"), unit: "V", needed: true },
    { kind: "volts", name: "start_volts", label: t("At the start"), unit: "V" },
    { kind: "number", name: "hours", label: t("It stood"), unit: "h" },
    temperature,
  ],
};

export const RUNG: Rung<"stand"> = {
  letter: "D",
  quiet: t("off everything after a full charge"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    return big(reading.volts.toFixed(2), t("V from {0} V in {1} h", reading.start_volts.toFixed(2), reading.hours));
  },
};
