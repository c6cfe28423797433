/** Its rung: a stand off everything. */
import { Soft } from "../../../kit/parts";
import { temperature, volts, whole } from "../said";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";
import { localFigure } from "../../../language/catalogue";

const SPEC: Spec<"stand"> = {
  asks: ({ limits }) => (
    <>
      {t("stand.after_a_full_charge_off_everything_must")} {volts(limits.recharge_line_volts)} {t("screens.for")}{" "}
      {whole(limits.stand_hours, "h")}{" "}
      <Soft>{t("stand.a_good_one_loses_a_month", { own_loss_pct_per_month: limits.own_loss_pct_per_month })}</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "volts", label: t("screens.volts_now"), unit: "V", needed: true },
    { kind: "volts", name: "start_volts", label: t("screens.at_the_start"), unit: "V" },
    { kind: "number", name: "hours", label: t("stand.it_stood"), unit: "h" },
    temperature,
  ],
};

export const RUNG: Rung<"stand"> = {
  letter: "D",
  quiet: t("stand.off_everything_after_a_full_charge"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    return big(
      reading.volts.toFixed(2),
      t("stand.v_from_v_in_h", { start_volts: localFigure(reading.start_volts.toFixed(2)), hours: reading.hours }),
    );
  },
};
