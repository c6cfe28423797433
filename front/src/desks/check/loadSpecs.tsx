/** What the loads, the charger, the stand and the car are asked, in figures and in words. */
import { Soft } from "../../kit/parts";
import { NEEDLES, SHOWN_BANDS, WAITS } from "../../kit/words";
import type { Field, FormProps, Values } from "./fields";
import { celsiusTyped, heldAt, postsClean, temperature, volts, warmth, whole } from "./said";
import type { Spec } from "./spec";
import { written } from "../../language/catalogue";
import { t } from "../../language/t";

const setLoad = (props: FormProps, values: Values) => {
  const { load, load_limits } = props.limits;
  if (load.amps === null) return t("No rating and no Ah on record: correct the label to size the pull.");
  return (
    <>
      {t("Set")} {whole(Math.round(load.amps), "A")} {t("for")} {whole(load.seconds, "s")}
      {t(": must hold")} {volts(heldAt(celsiusTyped(values, props), load_limits))}{" "}
      <Soft>{t("at {0}{1}", warmth(values, props), load.can_pass ? "" : t("; this load can only fail it"))}</Soft>
    </>
  );
};

const endAmps: Field = {
  kind: "number",
  name: "end_amps",
  label: t("Amps at the end"),
  unit: "A",
  say: { before: t("amps at the end"), empty: t("the same"), rare: true },
};

const needle: Field = {
  kind: "choice",
  name: "needle",
  label: t("The volts"),
  words: NEEDLES,
  start: "held",
  say: { before: t("it"), letter: "X" },
};

const drop = (name: string, label: string): Field => ({
  kind: "number",
  name,
  label: t("Volt drop, {0}", label),
  unit: "V",
  say: { before: label, empty: t("not measured"), rare: true },
});

const held = (before: string): Field => ({
  kind: "number",
  name: "seconds",
  label: t("Held"),
  unit: "s",
  say: { before, empty: t("seconds nobody counted"), letter: "O" },
});

export const PULL: Spec = {
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
    held(t("for")),
    needle,
    temperature,
    endAmps,
    postsClean(),
  ],
};

const showsCca = ({ tool }: FormProps) => tool?.tool.kind === "load" && tool.tool.shows === "amps";

/** What a scale in CCA must show: the house's share of the rating, less where it is cold by the load table's allowance. */
const onScale = (props: FormProps, values: Values) => {
  const { fixed, load_limits } = props.limits;
  if (fixed.warm_cca_amps === null) return t("its scale has no rating to be held against");
  const from = (held: number) => fixed.gate_rest_volts - held;
  const share = from(Math.max(...load_limits.volts)) / from(heldAt(celsiusTyped(values, props), load_limits));
  return (
    <>
      {t("good from")} {whole(Math.round(fixed.warm_cca_amps * share), "CCA")} {t("on its scale")}{" "}
      <Soft>{t("at {0}", warmth(values, props))}</Soft>
    </>
  );
};

export const FIXED: Spec = {
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
    held(t("for")),
    temperature,
    { ...needle, say: { before: t("it"), letter: "X", rare: true } },
    {
      kind: "choice",
      name: "band",
      label: t("Its scale shows"),
      words: { none: t("Volts only"), ...SHOWN_BANDS },
      start: "none",
      out: (value) => (value === "none" ? null : value),
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

export const CRANK: Spec = {
  asks: (props, values) => {
    const { crank, load, load_limits } = props.limits;
    const colder = heldAt(celsiusTyped(values, props), load_limits) - load.min_volts;
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
    held(t("cranked")),
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

export const STAND: Spec = {
  asks: ({ limits }) => (
    <>
      {t("After a full charge, off everything: must hold")} {volts(limits.recharge_line_volts)} {t("for")}{" "}
      {whole(limits.stand_hours, "h")}{" "}
      <Soft>{t("; a good one loses {0} % a month", limits.own_loss_pct_per_month)}</Soft>
    </>
  ),
  fields: [
    { kind: "volts", name: "volts", label: t("Volts now"), unit: "V", needed: true },
    { kind: "volts", name: "start_volts", label: t("At the start"), unit: "V" },
    { kind: "number", name: "hours", label: t("It stood"), unit: "h" },
    temperature,
  ],
};

/** Timed discharge: the work of batteries that do not start engines. */
export const RESERVE: Spec = {
  asks: ({ limits: { reserve } }) => (
    <>
      {t("From full at")} {whole(reserve.amps, "A")} {t("down to")} {volts(reserve.end_volts)}
      {t(": at least")} {whole(reserve.limit_pct, "%")} {t("of {0}", reserve.rated_words)}
    </>
  ),
  starts: ({ limits: { reserve } }) => ({ amps: String(reserve.amps), volts: written(reserve.end_volts.toFixed(2)) }),
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

export const CAR: Spec = {
  asks: ({ limits }) => (
    <>
      {t("Running")} {volts(limits.running_low_volts, 1)} {t("to")} {volts(limits.running_high_volts, 1)}
      {t(", key-off drain under")} {whole(limits.drain_ma, "mA")}
    </>
  ),
  fields: [
    { kind: "volts", name: "idle_volts", label: t("Running"), unit: "V", wide: 150 },
    { kind: "volts", name: "loaded_volts", label: t("Loads on"), unit: "V" },
    { kind: "number", name: "drain_ma", label: t("Key-off drain"), unit: "mA", wide: 124 },
    {
      kind: "flag",
      name: "modules_asleep",
      label: t("Modules asleep"),
      start: true,
      words: { yes: t("modules asleep"), no: t("modules still awake") },
      say: { letter: "O" },
    },
    {
      kind: "flag",
      name: "clamp_moves",
      label: t("Volts jump at a clamp"),
      words: { yes: t("volts jump at a clamp"), no: t("clamps hold") },
      say: { letter: "Y" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "unregistered",
      label: t("Never registered"),
      words: { yes: t("never registered"), no: t("registered, or needs none") },
      say: { letter: "X" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "short_trips",
      label: t("Short trips"),
      words: { yes: t("short trips"), no: t("longer drives") },
      say: { letter: "Q" },
      odd: (value) => value === "true",
    },
    drop("drop_joint_volts", t("post to clamp")),
    drop("drop_ground_volts", t("post to chassis")),
    drop("drop_starter_volts", t("post to starter")),
    {
      kind: "ticks",
      name: "waits",
      label: t("What stop-start waits for"),
      words: WAITS,
      fine: "waits_checked",
      wrong: "waits_found",
      when: (_, { complaint }) => complaint === "stop_start_stopped",
    },
  ],
};
