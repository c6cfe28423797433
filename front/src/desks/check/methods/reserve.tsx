/** Its rung: a timed discharge: the work of batteries that do not start engines. */
import { temperature, volts, whole } from "../said";
import { localFigure } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"reserve"> = {
  asks: ({ limits: { reserve } }) => (
    <>
      {t("From full at")} {whole(reserve.amps, "A")} {t("down to")} {volts(reserve.end_volts)}
      {t(": at least")} {whole(reserve.limit_pct, "%")} {t("of {0}", reserve.rated_words)}
    </>
  ),
  starts: ({ limits: { reserve } }) => ({
    amps: String(reserve.amps),
    volts: localFigure(reserve.end_volts.toFixed(2)),
  }),
  fields: [
    { kind: "number", name: "minutes", label: t("Minutes it gave"), unit: "min", needed: true },
    { kind: "number", name: "amps", label: t("Drawn"), unit: "A", say: { before: t("at"), letter: "Y" } },
    {
      kind: "volts",
      name: "volts",
      label: t("Volts at the end"),
      unit: "V",
      say: { before: t("down to"), letter: "O" },
    },
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("From full"),
      start: true,
      words: { yes: t("from full and rested"), no: t("not known to be full") },
      say: { letter: "X" },
    },
    temperature,
    { kind: "log", of: "volts", name: "log", label: t("On the way") },
  ],
};

export const RUNG: Rung<"reserve"> = {
  letter: "⇧D",
  quiet: t("timed discharge from full"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    return big(String(reading.minutes), t("min at {0} A to {1} V{2}", reading.amps, reading.volts.toFixed(2), at));
  },
};
