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
  if (fixed.warm_cca_amps === null) return t("fixed_load.its_scale_has_no_rating_to_be_held_against");
  const from = (held: number) => fixed.gate_rest_volts - held;
  const share = from(Math.max(...load_limits.volts)) / from(limitAt(celsiusTyped(values, props), load_limits));
  return (
    <>
      {t("fixed_load.good_from")} {whole(Math.round(fixed.warm_cca_amps * share), "CCA")} {t("fixed_load.on_its_scale")}{" "}
      <Soft>{t("screens.at", { values: warmth(values, props) })}</Soft>
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
            {t("fixed_load.read_at_the_end_good_above")} {volts(fixed.good_volts, 1)}
            {t("fixed_load.floor")} {volts(fixed.floor_volts, 1)}
          </>
        )}
        {t("fixed_load.must_come_back_to")} {volts(fixed.bounce_volts, 1)}
        {fixed.can_pass ? "" : t("fixed_load.it_can_fail_this_battery_never_pass_it")}
      </>
    );
  },
  starts: ({ limits: { fixed } }) => ({ amps: String(fixed.amps), seconds: String(fixed.seconds) }),
  timer: ({ limits }) => ({ seconds: limits.fixed.seconds }),
  enough: (body) => body["volts"] !== undefined || body["band"] != null || body["shown_cca_amps"] != null,
  fields: [
    { kind: "volts", name: "volts", label: t("screens.volts_at_the_end"), unit: "V" },
    { kind: "volts", name: "bounce_volts", label: t("fixed_load.came_back_to"), unit: "V", wide: 132 },
    {
      kind: "number",
      name: "amps",
      label: t("fixed_load.it_draws"),
      unit: "A",
      say: { before: t("fixed_load.drew"), letter: "Y" },
    },
    secondsField(t("screens.for")),
    temperature,
    { ...needle, say: { before: t("screens.it"), letter: "X", rare: true } },
    {
      kind: "choice",
      name: "band",
      label: t("screens.its_scale_shows"),
      words: { none: t("fixed_load.volts_only"), ...SHOWN_BANDS },
      start: "none",
      out: (value) => (value === "none" ? null : (value as Schema["ShownBand"])),
      back: (kept) => (kept == null ? "none" : String(kept)),
      tells: true,
      wanted: ({ tool }) => tool?.tool.kind === "load" && tool.tool.shows === "bands",
      say: { before: t("fixed_load.its_scale_shows"), rare: true },
    },
    {
      kind: "number",
      name: "shown_cca_amps",
      label: t("fixed_load.cca_on_its_scale"),
      unit: "CCA",
      wanted: showsCca,
      say: { before: t("screens.or"), empty: t("fixed_load.no_cca"), rare: true },
    },
    endAmps,
    postsClean(),
  ],
};

export const RUNG: Rung<"fixed_load"> = {
  letter: "F",
  quiet: t("fixed_load.with_the_small_resistor"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    if (reading.volts == null)
      return big(
        reading.band ?? String(reading.shown_cca_amps),
        t("fixed_load.on_its_scale_under_a_2", {
          t: reading.band ? "" : t("fixed_load.cca"),
          amps: reading.amps ?? 100,
        }),
      );
    return big(
      reading.volts.toFixed(1),
      t("fixed_load.v_under_a_for_s", {
        amps: reading.amps ?? 100,
        seconds: reading.seconds,
        t: reading.bounce_volts ? t("fixed_load.back_to_v", { bounce_volts: reading.bounce_volts }) : "",
      }),
    );
  },
};
