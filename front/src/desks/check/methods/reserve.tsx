/** Its rung: a timed discharge: the work of batteries that do not start engines. */
import { temperature, volts, whole } from "../said";
import { localFigure } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"reserve"> = {
  asks: ({ limits: { reserve } }) => (
    <>
      {t("reserve.from_full_at")} {whole(reserve.amps, "A")} {t("reserve.down_to")} {volts(reserve.end_volts)}
      {t("reserve.at_least")} {whole(reserve.limit_pct, "%")} {t("reserve.of", { rated_words: reserve.rated_words })}
    </>
  ),
  starts: ({ limits: { reserve } }) => ({
    amps: String(reserve.amps),
    volts: localFigure(reserve.end_volts.toFixed(2)),
  }),
  fields: [
    { kind: "number", name: "minutes", label: t("reserve.minutes_it_gave"), unit: "min", needed: true },
    {
      kind: "number",
      name: "amps",
      label: t("screens.drawn"),
      unit: "A",
      say: { before: t("reserve.at"), letter: "Y" },
    },
    {
      kind: "volts",
      name: "volts",
      label: t("screens.volts_at_the_end"),
      unit: "V",
      say: { before: t("reserve.down_to"), letter: "O" },
    },
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("reserve.from_full"),
      start: true,
      words: { yes: t("reserve.from_full_and_rested"), no: t("reserve.not_known_to_be_full") },
      say: { letter: "X" },
    },
    temperature,
    { kind: "log", of: "volts", name: "log", label: t("screens.on_the_way") },
  ],
};

export const RUNG: Rung<"reserve"> = {
  letter: "⇧D",
  quiet: t("reserve.timed_discharge_from_full"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    return big(
      String(reading.minutes),
      t("reserve.min_at_a_to_v_2", { amps: reading.amps, volts: localFigure(reading.volts.toFixed(2)), at }),
    );
  },
};
