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
  if (load.amps === null) return t("adjustable_load.no_rating_and_no_ah_on_record_correct_the");
  return (
    <>
      {t("screens.set")} {whole(Math.round(load.amps), "A")} {t("screens.for")} {whole(load.seconds, "s")}
      {t("adjustable_load.must_hold")} {volts(limitAt(celsiusTyped(values, props), load_limits))}{" "}
      <Soft>
        {t("adjustable_load.at", {
          values: warmth(values, props),
          t: load.can_pass ? "" : t("adjustable_load.this_load_can_only_fail_it"),
        })}
      </Soft>
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
    { kind: "volts", name: "volts", label: t("screens.volts_at_the_end"), unit: "V", needed: true },
    {
      kind: "number",
      name: "amps",
      label: t("screens.drawn"),
      unit: "A",
      say: { before: t("adjustable_load.pulled"), empty: t("adjustable_load.amps_nobody_read"), letter: "Y" },
      odd: (value, { limits }) => limits.load.amps !== null && value !== String(Math.round(limits.load.amps)),
    },
    secondsField(t("screens.for")),
    needle,
    temperature,
    endAmps,
    postsClean(),
  ],
};

export const RUNG: Rung<"adjustable_load"> = {
  letter: "P",
  quiet: t("adjustable_load.with_the_adjustable_load"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    return big(
      reading.volts.toFixed(2),
      t("adjustable_load.v_under_a_for_s", { amps: reading.amps, seconds: reading.seconds, at }),
    );
  },
};
