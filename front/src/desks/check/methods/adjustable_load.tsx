/** Its rung: a pull with the adjustable load. */
import { Soft } from "../../../kit/parts";
import type { FormProps, Values } from "../fields";
import { celsiusTyped, limitAt, postsClean, temperature, volts, warmth, whole } from "../said";
import { t } from "../../../language/t";
import { secondsField, needle, endAmps } from "./pulled";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const setLoad = (props: FormProps, values: Values) => {
  const { load, load_limits } = props.limits;
  if (load.amps === null) return t("No rating and no Ah on record: correct the label to size the pull.");
  return (
    <>
      {t("Set")} {whole(Math.round(load.amps), "A")} {t("for")} {whole(load.seconds, "s")}
      {t(": must hold")} {volts(limitAt(celsiusTyped(values, props), load_limits))}{" "}
      <Soft>{t("at {0}{1}", warmth(values, props), load.can_pass ? "" : t("; this load can only fail it"))}</Soft>
    </>
  );
};

const SPEC: Spec<"adjustable_load"> = {
  asks: setLoad,
  starts: ({ limits }) => ({
    amps: limits.load.amps === null ? "" : String(Math.round(limits.load.amps)),
    seconds: String(limits.load.seconds),
  }),
  timer: ({ limits }) => ({ seconds: limits.load.seconds }),
  between: ({ limits }) => limits.load_wait_minutes,
  fields: [
    { kind: "volts", name: "volts", label: t("Volts at the end"), unit: "V", needed: true },
    {
      kind: "number",
      name: "amps",
      label: t("Drawn"),
      unit: "A",
      say: { before: t("pulled"), empty: t("amps nobody read"), letter: "Y" },
      odd: (value, { limits }) => limits.load.amps !== null && value !== String(Math.round(limits.load.amps)),
    },
    secondsField(t("for")),
    needle,
    temperature,
    endAmps,
    postsClean(),
  ],
};

export const RUNG: Rung<"adjustable_load"> = {
  letter: "P",
  quiet: t("with the adjustable load"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    return big(reading.volts.toFixed(2), t("V under {0} A for {1} s{2}", reading.amps, reading.seconds, at));
  },
};
