/** Its rung: a pull with the fixed load. */
import type { Schema } from "../../../api/client";
import { Soft } from "../../../kit/parts";
import { SHOWN_BANDS } from "../../../kit/words";
import type { FormProps, Values } from "../fields";
import { celsiusTyped, limitAt, postsClean, temperature, volts, warmth, whole } from "../said";
import { t } from "../../../language/t";
import { endAmps, secondsField, needle } from "./pulled";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const showsCca = ({ tool }: FormProps) => tool?.tool.kind === "load" && tool.tool.shows === "amps";

/** What a scale in CCA must show: the house's share of the rating, less where it is cold by the load table's allowance. */
const onScale = (props: FormProps, values: Values) => {
  const { fixed, load_limits } = props.limits;
  if (fixed.warm_cca_amps === null) return t("its scale has no rating to be held against");
  const from = (held: number) => fixed.gate_rest_volts - held;
  const share = from(Math.max(...load_limits.volts)) / from(limitAt(celsiusTyped(values, props), load_limits));
  return (
    <>
      {t("good from")} {whole(Math.round(fixed.warm_cca_amps * share), "CCA")} {t("on its scale")}{" "}
      <Soft>{t("at {0}", warmth(values, props))}</Soft>
    </>
  );
};

const SPEC: Spec<"fixed_load"> = {
  asks: (props, values) => {
    const { fixed } = props.limits;
    return (
      <>
        {whole(fixed.seconds, "s")}
        {showsCca(props) ? (
          <>, {onScale(props, values)}</>
        ) : (
          <>
            {t(", read at the end: good above")} {volts(fixed.good_volts, 1)}
            {t(", floor")} {volts(fixed.floor_volts, 1)}
          </>
        )}
        {t("; must come back to")} {volts(fixed.bounce_volts, 1)}
        {fixed.can_pass ? "" : t(". It can fail this battery, never pass it")}
      </>
    );
  },
  starts: ({ limits: { fixed } }) => ({ amps: String(fixed.amps), seconds: String(fixed.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.fixed.seconds }),
  enough: (body) => body["volts"] !== undefined || body["band"] != null || body["shown_cca_amps"] != null,
  fields: [
    { kind: "volts", name: "volts", label: t("Volts at the end"), unit: "V" },
    { kind: "volts", name: "bounce_volts", label: t("Came back to"), unit: "V", wide: 132 },
    { kind: "number", name: "amps", label: t("It draws"), unit: "A", say: { before: t("drew"), letter: "Y" } },
    secondsField(t("for")),
    temperature,
    { ...needle, say: { before: t("it"), letter: "X", rare: true } },
    {
      kind: "choice",
      name: "band",
      label: t("Its scale shows"),
      words: { none: t("Volts only"), ...SHOWN_BANDS },
      start: "none",
      out: (value) => (value === "none" ? null : (value as Schema["ShownBand"])),
      back: (kept) => (kept == null ? "none" : String(kept)),
      tells: true,
      wanted: ({ tool }) => tool?.tool.kind === "load" && tool.tool.shows === "bands",
      say: { before: t("its scale shows"), rare: true },
    },
    {
      kind: "number",
      name: "shown_cca_amps",
      label: t("CCA on its scale"),
      unit: "CCA",
      wanted: showsCca,
      say: { before: t("or"), empty: t("no CCA"), rare: true },
    },
    endAmps,
    postsClean(),
  ],
};

export const RUNG: Rung<"fixed_load"> = {
  letter: "F",
  quiet: t("with the small resistor"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    if (reading.volts == null)
      return big(
        reading.band ?? String(reading.shown_cca_amps),
        t("{0}on its scale under {1} A", reading.band ? "" : t("CCA "), reading.amps ?? 100),
      );
    return big(
      reading.volts.toFixed(1),
      t(
        "V under {0} A for {1} s{2}",
        reading.amps ?? 100,
        reading.seconds,
        reading.bounce_volts ? t(", back to {0} V", reading.bounce_volts) : "",
      ),
    );
  },
};
