/** Its rung: cranking in the car. */
import { Soft } from "../../../kit/parts";
import { celsiusTyped, limitAt, temperature, volts, warmth } from "../said";
import { t } from "../../../language/t";
import { secondsField } from "./pulled";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"crank"> = {
  asks: (props, values) => {
    const { crank, load, load_limits } = props.limits;
    const colder = limitAt(celsiusTyped(values, props), load_limits) - load.min_volts;
    return (
      <>
        {t("Crank, read when the speed is steady: must hold")} {volts(crank.min_volts + colder, 1)}{" "}
        <Soft>{t("at {0}", warmth(values, props))}</Soft>
      </>
    );
  },
  enough: (body) => body["volts"] !== undefined || body["dip_volts"] !== undefined,
  starts: ({ limits }) => ({ seconds: String(limits.crank.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.crank.seconds }),
  fields: [
    { kind: "volts", name: "volts", label: t("Volts cranking"), unit: "V" },
    { kind: "volts", name: "dip_volts", label: t("Start dip"), unit: "V", wide: 124 },
    {
      kind: "flag",
      name: "engine_disabled",
      label: t("Engine disabled"),
      start: true,
      words: { yes: t("engine disabled"), no: t("engine free to start") },
      say: { letter: "Y" },
    },
    secondsField(t("cranked")),
    {
      kind: "flag",
      name: "at_posts",
      label: t("At the battery's posts"),
      start: true,
      words: { yes: t("at the battery's posts"), no: t("not at its posts") },
      say: { letter: "X" },
    },
    temperature,
  ],
};

export const RUNG: Rung<"crank"> = {
  letter: "K",
  quiet: t("in the car, engine disabled"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    const dip = reading.dip_volts != null ? t(", dipped to {0} V", reading.dip_volts.toFixed(1)) : "";
    if (reading.volts == null) return big(String(reading.dip_volts), t("V start dip"));
    return big(reading.volts.toFixed(1), t("V cranking {0} s{1}{2}", reading.seconds, at, dip));
  },
};
