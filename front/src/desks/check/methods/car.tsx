/** Its rung: what the car does to it. */
import { WAITS } from "../../../kit/words";
import type { Figure } from "../fields";
import { volts, whole } from "../said";
import { t } from "../../../language/t";
import { rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const drop = <N extends string>(name: N, label: string): Figure & { name: N } => ({
  kind: "number",
  name,
  label: t("Volt drop, {0}", label),
  unit: "V",
  say: { before: label, empty: t("not measured"), rare: true },
});

const SPEC: Spec<"car"> = {
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

export const RUNG: Rung<"car"> = {
  letter: "A",
  quiet: t("charging, clamps, drain"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    return [
      reading.idle_volts ? t("{0} V running", reading.idle_volts) : "",
      reading.drain_ma != null ? t("drain {0} mA", reading.drain_ma) : "",
      reading.clamp_moves ? t("clamp loose") : "",
      reading.unregistered ? t("not registered") : "",
      reading.short_trips ? t("short trips") : "",
      reading.waits_checked?.length ? t("{0} of 10 looked at", reading.waits_checked.length) : "",
      reading.waits_found?.length ? t("{0} found wrong", reading.waits_found.length) : "",
      reading.drop_joint_volts != null || reading.drop_ground_volts != null || reading.drop_starter_volts != null
        ? t("volt drop read")
        : "",
    ]
      .filter(Boolean)
      .join(", ");
  },
};
