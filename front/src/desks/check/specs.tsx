/** What the meter, the tester and the hydrometer are asked, in figures and in words. */
import type { Schema } from "../../api/client";
import { nowMs } from "../../kit/clock";
import { Figure } from "../../kit/parts";
import { BANDS, CELL_STATES, CLAMPED, MESSAGES, SETTLED, TYPES } from "../../kit/words";
import type { FormProps } from "./fields";
import { postsClean, temperature, volts, whole } from "./said";
import type { Spec } from "./spec";
import { written } from "../../language/catalogue";
import { t } from "../../language/t";

const settledIs = (values: Record<string, unknown>, what: Schema["Settled"]) => values["settled"] === what;

export const VOLTS: Spec = {
  // straight off the charger nobody's word makes a rest of it
  starts: ({ limits }): Record<string, string> =>
    limits.off_charge_until !== null && nowMs() < Date.parse(limits.off_charge_until)
      ? { settled: "just_charged" }
      : {},
  asks: ({ limits }) => (
    <>
      {t("Judged from")} {volts(limits.recharge_line_volts)} {t("up. Rested")}{" "}
      {limits.rest_hours > 0 && (
        <>
          {whole(limits.rest_hours, "h")}
          {t(", or")}{" "}
        </>
      )}
      {whole(limits.headlamp_seconds / 60, t("min"))} {t("of headlamps")}
    </>
  ),
  timer: ({ limits, due }, values) =>
    due === "measure_after_pull"
      ? { seconds: limits.load_wait_minutes * 60, label: t("Since the pull") }
      : settledIs(values, "headlamps")
        ? { seconds: limits.headlamp_seconds, label: t("Headlamps on") }
        : null,
  fields: [
    {
      kind: "volts",
      name: "volts",
      label: t("Volts at rest"),
      unit: "V",
      needed: true,
      placeholder: "12.58",
      tenths: true,
    },
    {
      kind: "choice",
      name: "settled",
      label: t("How it settled"),
      words: SETTLED,
      start: "rested",
      say: { letter: "Y" },
    },
    {
      kind: "number",
      name: "rested_hours",
      label: t("Hours of rest"),
      unit: "h",
      say: { before: t("for"), empty: t("hours nobody counted"), letter: "O" },
      when: (values) => settledIs(values, "rested"),
    },
    temperature,
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("After a full charge"),
      words: { yes: t("after a full charge"), no: t("not after a charge") },
      say: { letter: "X" },
      when: (values) => !settledIs(values, "just_charged"),
    },
    {
      kind: "choice",
      name: "meter_range",
      label: t("Range of the meter"),
      words: { "20_v": t("20 V range"), "200_v": t("200 V range"), "600_v": t("600 V range") },
      start: "20_v",
      say: { before: t("on the"), rare: true },
      odd: (value) => value !== "20_v",
    },
    {
      kind: "flag",
      name: "confirmed",
      label: t("Cleaned and measured again, the same"),
      when: (values, { says }) => says?.rule === "doubt_below_volts" || values["confirmed"] === true,
    },
  ],
};

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
const orNone = (none: string) => ({
  out: (value: string) => (value === none ? null : value),
  back: (kept: unknown) => (kept == null ? none : String(kept)),
});

export const TESTER: Spec = {
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
      ...orNone("unset"),
      say: { letter: "⇧W", rare: true },
    },
    {
      kind: "choice",
      name: "message",
      label: t("Its own message"),
      words: { none: t("Nothing"), ...MESSAGES },
      start: "none",
      ...orNone("none"),
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

export const CELLS: Spec = {
  asks: ({ limits }) => (
    <>
      {t("Healthy from")} <Figure>{written(limits.gravity_healthy.toFixed(3))}</Figure> {t("after a charge; a cell")}{" "}
      <Figure>{written(limits.gravity_spread.toFixed(3))}</Figure> {t("or")} {volts(limits.cell_suspect_volts)}{" "}
      {t("under its mates is failing or suspect")}
    </>
  ),
  starts: ({ tool }) => ({ _colours: tool?.tool.kind === "hydrometer" && tool.tool.shows === "bands" ? t("yes") : "" }),
  fields: [
    {
      kind: "cells",
      name: "specific_gravities",
      label: t("Gravity"),
      placeholder: "1265",
      when: (values) => values["_colours"] !== true,
    },
    {
      kind: "cell choice",
      name: "bands",
      label: t("Colours"),
      words: BANDS,
      when: (values) => values["_colours"] === true,
    },
    { kind: "temperature", name: "temperature_c", label: t("Acid at"), asked: true },
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("After a full charge"),
      words: { yes: t("after a full charge"), no: t("not after a charge") },
      say: { letter: "X" },
    },
    {
      kind: "flag",
      name: "equalised",
      label: t("Equalised before"),
      words: { yes: t("equalised before"), no: t("not equalised") },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "_colours",
      label: t("The hydrometer shows"),
      words: { yes: t("colours"), no: t("figures") },
      say: { before: t("the hydrometer shows"), letter: "O" },
    },
    { kind: "cells", name: "cell_volts", label: t("Cell volts, trained hands only"), placeholder: "2.10" },
    { kind: "cell choice", name: "on_charge", label: t("On charge"), words: CELL_STATES },
  ],
};
