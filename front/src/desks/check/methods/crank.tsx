/** Its rung: cranking in the car. */
import { Soft } from "../../../kit/parts";
import { celsiusTyped, limitAt, temperature, volts, warmth } from "../said";
import { t } from "../../../language/t";
import { secondsField } from "./pulled";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";
import { localFigure } from "../../../language/catalogue";

const SPEC: Spec<"crank"> = {
  asks: (props, values) => {
    const { crank, load, load_limits } = props.limits;
    const colder = limitAt(celsiusTyped(values, props), load_limits) - load.min_volts;
    return (
      <>
        {t("crank.crank_read_when_the_speed_is_steady_must")} {volts(crank.min_volts + colder, 1)}{" "}
        <Soft>{t("screens.at", { values: warmth(values, props) })}</Soft>
      </>
    );
  },
  enough: (body) => body["volts"] !== undefined || body["dip_volts"] !== undefined,
  starts: ({ limits }) => ({ seconds: String(limits.crank.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.crank.seconds }),
  fields: [
    { kind: "volts", name: "volts", label: t("crank.volts_cranking"), unit: "V" },
    { kind: "volts", name: "dip_volts", label: t("crank.start_dip"), unit: "V", wide: 124 },
    {
      kind: "flag",
      name: "engine_disabled",
      label: t("crank.engine_disabled"),
      start: true,
      words: { yes: t("crank.engine_disabled_2"), no: t("crank.engine_free_to_start") },
      say: { letter: "Y" },
    },
    secondsField(t("crank.cranked")),
    {
      kind: "flag",
      name: "at_posts",
      label: t("crank.at_the_batterys_posts"),
      start: true,
      words: { yes: t("crank.at_the_batterys_posts_2"), no: t("crank.not_at_its_posts") },
      say: { letter: "X" },
    },
    temperature,
  ],
};

export const RUNG: Rung<"crank"> = {
  letter: "K",
  quiet: t("crank.in_the_car_engine_disabled"),
  Form: rungForm(SPEC),
  summary: (reading, { at }) => {
    const dip =
      reading.dip_volts != null ? t("crank.dipped_to_v", { dip_volts: localFigure(reading.dip_volts.toFixed(1)) }) : "";
    if (reading.volts == null) return big(String(reading.dip_volts), t("crank.v_start_dip_2"));
    return big(reading.volts.toFixed(1), t("crank.v_cranking_s", { seconds: reading.seconds, at, dip }));
  },
};
