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
      t("No rated figure on record: correct the label, or the tester has nothing to be held against.")
    ) : (
      <>
        {t("Held against")} {limits.rating_words}
        {t(": replace below")} {whole(Math.round(limits.replace_below_amps), scaleOf({ battery } as FormProps))}
      </>
    ),
  starts: (props) => ({ type_set: typeOf(props), scale_set: props.tool?.scale ?? scaleOf(props) }),
  // a result may be only a message, or a resistance
  enough: (body) => body["measured_cca_amps"] != null || body["message"] != null || body["resistance_mohm"] != null,
  fields: [
    { kind: "number", name: "measured_cca_amps", label: t("Measured"), unit: "A", placeholder: "412" },
    {
      kind: "choice",
      name: "type_set",
      label: t("Tester set to"),
      words: TYPES,
      only: (props) => testerOf(props)?.types,
      start: "flooded",
      say: { before: t("set to"), letter: "Y" },
      odd: (value, props) => !value.startsWith(typeOf(props).slice(0, 3)),
    },
    {
      kind: "choice",
      name: "scale_set",
      label: t("Scale set"),
      words: SCALES,
      only: (props) => testerOf(props)?.scales,
      start: "CCA",
      say: { before: t("in"), letter: "X" },
      odd: (value, props) => value !== scaleOf(props),
    },
    {
      kind: "choice",
      name: "clamped",
      label: t("Clamped on"),
      words: CLAMPED,
      start: "lead_posts",
      say: { before: t("on"), letter: "O" },
      odd: (value) => value !== "lead_posts",
    },
    postsClean("Q"),
    {
      kind: "choice",
      name: "in_vehicle",
      label: t("Tested"),
      words: { no: t("Out of the car"), yes: t("In the car") },
      start: "no",
      out: isYes,
      back: yesOf(false),
      say: { letter: "⇧I", rare: true },
    },
    {
      kind: "choice",
      name: "charge_setting",
      label: t("It was set"),
      words: { unset: t("Not asked when"), before: t("Before a charge"), after: t("After a charge") },
      start: "unset",
      ...orNone<"before" | "after">("unset"),
      say: { letter: "⇧W", rare: true },
    },
    {
      kind: "choice",
      name: "message",
      label: t("Its own message"),
      words: { none: t("Nothing"), ...MESSAGES },
      start: "none",
      ...orNone<Schema["TesterMessage"]>("none"),
      tells: true,
      say: { before: t("it says"), letter: "J" },
    },
    {
      kind: "number",
      name: "health_pct",
      label: t("Its health"),
      unit: "%",
      say: { before: t("health"), empty: t("not shown"), letter: "⇧H" },
    },
    {
      kind: "number",
      name: "state_of_charge_pct",
      label: t("Its charge"),
      unit: "%",
      say: { before: t("charge"), empty: t("not shown"), letter: "⇧C", rare: true },
    },
    {
      kind: "number",
      name: "rated_set_amps",
      label: t("Rated figure set"),
      unit: "A",
      say: { before: t("rated set"), empty: t("as on the label"), letter: "⇧R", rare: true },
      odd: (value, { battery }) => value !== "" && Number(value) !== battery.rating?.amps,
    },
    {
      kind: "volts",
      name: "volts",
      label: t("Its volts"),
      unit: "V",
      say: { before: t("its volts"), empty: t("not noted"), letter: "⇧V", rare: true },
    },
    {
      kind: "number",
      name: "resistance_mohm",
      label: t("Its resistance"),
      unit: "mΩ",
      wanted: (props) => testerOf(props)?.shows === "milliohms",
      say: { before: t("resistance"), empty: t("not shown"), letter: "⇧O", rare: true },
    },
    {
      ...temperature,
      say: { before: t("battery at"), empty: t("a temperature nobody took"), letter: "⇧T", rare: true },
    },
  ],
};

export const RUNG: Rung<"electronic_tester"> = {
  letter: "T",
  quiet: t("electronic, on the lead posts"),
  Form: rungForm(SPEC),
  summary: (reading, { battery }) => {
    if (reading.measured_cca_amps == null)
      return reading.message
        ? big(MESSAGES[reading.message], t("it says, set to {0}", TYPES[reading.type_set]))
        : big(String(reading.resistance_mohm), t("mΩ, set to {0}", TYPES[reading.type_set]));
    const rated = reading.scale_set === (battery.rating?.scale ?? "CCA") ? battery.rating?.amps : undefined;
    const share = rated ? t(" of {0}, {1} %", rated, Math.round((reading.measured_cca_amps / rated) * 100)) : "";
    const own = reading.message ? t(", it says {0}", small(MESSAGES[reading.message])) : "";
    return big(
      String(reading.measured_cca_amps),
      `${reading.scale_set ?? "CCA"}${share}, ${TYPES[reading.type_set]}, ${small(CLAMPED[reading.clamped ?? "lead_posts"])}${own}`,
    );
  },
};
