/** Its rung: the electronic tester. */
import type { Schema } from "../../../api/client";
import { CLAMPED, MESSAGES, TYPES } from "../../../kit/words";
import type { FormProps } from "../fields";
import { postsClean, temperature, whole } from "../said";
import { small } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const TYPE_OF: Record<Schema["Chemistry"], Schema["TypeSet"]> = {
  flooded: "flooded",
  hybrid: "flooded",
  calcium: "flooded",
  efb: "efb",
  agm: "agm_flat",
  gel: "gel",
};

const SCALES = { CCA: "CCA", EN: "EN", CA: "CA", MCA: "MCA", HCA: "HCA", DIN: "DIN", IEC: "IEC", JIS: "JIS" };

const typeOf = ({ battery }: FormProps) => TYPE_OF[battery.chemistry ?? "flooded"];

const scaleOf = ({ battery }: FormProps) => battery.rating?.scale ?? "CCA";

const testerOf = ({ tool }: FormProps) => (tool?.tool.kind === "tester" ? tool.tool : undefined);

const isYes = (value: string) => value === "yes";

const yesOf = (yes: boolean | undefined) => (kept: unknown) => ((kept ?? yes) ? "yes" : "no");

/** A choice with one word for nothing. */
const orNone = <Word extends string>(none: string) => ({
  out: (value: string) => (value === none ? null : (value as Word)),
  back: (kept: unknown) => (kept == null ? none : String(kept)),
});

const SPEC: Spec<"electronic_tester"> = {
  asks: ({ limits, battery }) =>
    limits.replace_below_amps === null ? (
      t("electronic_tester.no_rated_figure_on_record_correct_the")
    ) : (
      <>
        {t("electronic_tester.held_against")} {limits.rating_words}
        {t("electronic_tester.replace_below_2")}{" "}
        {whole(Math.round(limits.replace_below_amps), scaleOf({ battery } as FormProps))}
      </>
    ),
  starts: (props) => ({ type_set: typeOf(props), scale_set: props.tool?.scale ?? scaleOf(props) }),
  // a result may be only a message, or a resistance
  enough: (body) => body["measured_cca_amps"] != null || body["message"] != null || body["resistance_mohm"] != null,
  fields: [
    { kind: "number", name: "measured_cca_amps", label: t("screens.measured"), unit: "A", placeholder: "412" },
    {
      kind: "choice",
      name: "type_set",
      label: t("electronic_tester.tester_set_to"),
      words: TYPES,
      only: (props) => testerOf(props)?.types,
      start: "flooded",
      say: { before: t("electronic_tester.set_to"), letter: "Y" },
      odd: (value, props) => !value.startsWith(typeOf(props).slice(0, 3)),
    },
    {
      kind: "choice",
      name: "scale_set",
      label: t("electronic_tester.scale_set"),
      words: SCALES,
      only: (props) => testerOf(props)?.scales,
      start: "CCA",
      say: { before: t("electronic_tester.in"), letter: "X" },
      odd: (value, props) => value !== scaleOf(props),
    },
    {
      kind: "choice",
      name: "clamped",
      label: t("screens.clamped_on"),
      words: CLAMPED,
      start: "lead_posts",
      say: { before: t("electronic_tester.on"), letter: "O" },
      odd: (value) => value !== "lead_posts",
    },
    postsClean("Q"),
    {
      kind: "choice",
      name: "in_vehicle",
      label: t("electronic_tester.tested"),
      words: { no: t("electronic_tester.out_of_the_car"), yes: t("screens.in_the_car") },
      start: "no",
      out: isYes,
      back: yesOf(false),
      say: { letter: "⇧I", rare: true },
    },
    {
      kind: "choice",
      name: "charge_setting",
      label: t("electronic_tester.it_was_set"),
      words: {
        unset: t("electronic_tester.not_asked_when"),
        before: t("electronic_tester.before_a_charge"),
        after: t("electronic_tester.after_a_charge"),
      },
      start: "unset",
      ...orNone<"before" | "after">("unset"),
      say: { letter: "⇧W", rare: true },
    },
    {
      kind: "choice",
      name: "message",
      label: t("electronic_tester.its_own_message"),
      words: { none: t("electronic_tester.nothing_2"), ...MESSAGES },
      start: "none",
      ...orNone<Schema["TesterMessage"]>("none"),
      tells: true,
      say: { before: t("electronic_tester.it_says_2"), letter: "J" },
    },
    {
      kind: "number",
      name: "health_pct",
      label: t("electronic_tester.its_health"),
      unit: "%",
      say: { before: t("electronic_tester.health"), empty: t("electronic_tester.not_shown"), letter: "⇧H" },
    },
    {
      kind: "number",
      name: "state_of_charge_pct",
      label: t("electronic_tester.its_charge"),
      unit: "%",
      say: { before: t("screens.charge"), empty: t("electronic_tester.not_shown"), letter: "⇧C", rare: true },
    },
    {
      kind: "number",
      name: "rated_set_amps",
      label: t("electronic_tester.rated_figure_set"),
      unit: "A",
      say: {
        before: t("electronic_tester.rated_set"),
        empty: t("electronic_tester.as_on_the_label"),
        letter: "⇧R",
        rare: true,
      },
      odd: (value, { battery }) => value !== "" && Number(value) !== battery.rating?.amps,
    },
    {
      kind: "volts",
      name: "volts",
      label: t("electronic_tester.its_volts"),
      unit: "V",
      say: {
        before: t("electronic_tester.its_volts_2"),
        empty: t("electronic_tester.not_noted"),
        letter: "⇧V",
        rare: true,
      },
    },
    {
      kind: "number",
      name: "resistance_mohm",
      label: t("electronic_tester.its_resistance"),
      unit: "mΩ",
      wanted: (props) => testerOf(props)?.shows === "milliohms",
      say: {
        before: t("electronic_tester.resistance"),
        empty: t("electronic_tester.not_shown"),
        letter: "⇧O",
        rare: true,
      },
    },
    { ...temperature, say: { before: t("screens.battery_at"), letter: "⇧T", rare: true } },
  ],
};

export const RUNG: Rung<"electronic_tester"> = {
  letter: "T",
  quiet: t("electronic_tester.electronic_on_the_lead_posts"),
  Form: rungForm(SPEC),
  summary: (reading, { battery }) => {
    if (reading.measured_cca_amps == null)
      return reading.message
        ? big(MESSAGES[reading.message], t("electronic_tester.it_says_set_to", { type_set: TYPES[reading.type_set] }))
        : big(String(reading.resistance_mohm), t("electronic_tester.m_set_to", { type_set: TYPES[reading.type_set] }));
    const rated = reading.scale_set === (battery.rating?.scale ?? "CCA") ? battery.rating?.amps : undefined;
    const share = rated
      ? t("electronic_tester.of_3", { rated, measured_cca_amps: Math.round((reading.measured_cca_amps / rated) * 100) })
      : "";
    const own = reading.message ? t("electronic_tester.it_says_3", { message: small(MESSAGES[reading.message]) }) : "";
    return big(
      String(reading.measured_cca_amps),
      `${reading.scale_set ?? "CCA"}${share}, ${TYPES[reading.type_set]}, ${small(CLAMPED[reading.clamped ?? "lead_posts"])}${own}`,
    );
  },
};
