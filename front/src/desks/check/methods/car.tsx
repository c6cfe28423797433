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
  label: t("car.volt_drop", { label }),
  unit: "V",
  say: { before: label, empty: t("car.not_measured"), rare: true },
});

const SPEC: Spec<"car"> = {
  asks: ({ limits }) => (
    <>
      {t("car.running")} {volts(limits.running_low_volts, 1)} {t("screens.to")} {volts(limits.running_high_volts, 1)}
      {t("car.key_off_drain_under")} {whole(limits.drain_ma, "mA")}
    </>
  ),
  fields: [
    { kind: "volts", name: "idle_volts", label: t("car.running"), unit: "V", wide: 150 },
    { kind: "volts", name: "loaded_volts", label: t("car.loads_on"), unit: "V" },
    { kind: "number", name: "drain_ma", label: t("car.key_off_drain_2"), unit: "mA", wide: 124 },
    {
      kind: "flag",
      name: "modules_asleep",
      label: t("car.modules_asleep"),
      start: true,
      words: { yes: t("car.modules_asleep_2"), no: t("car.modules_still_awake") },
      say: { letter: "O" },
    },
    {
      kind: "flag",
      name: "clamp_moves",
      label: t("car.volts_jump_at_a_clamp"),
      words: { yes: t("car.volts_jump_at_a_clamp_2"), no: t("car.clamps_hold") },
      say: { letter: "Y" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "unregistered",
      label: t("car.never_registered"),
      words: { yes: t("car.never_registered_2"), no: t("car.registered_or_needs_none") },
      say: { letter: "X" },
      odd: (value) => value === "true",
    },
    {
      kind: "flag",
      name: "short_trips",
      label: t("car.short_trips"),
      words: { yes: t("car.short_trips_2"), no: t("car.longer_drives") },
      say: { letter: "Q" },
      odd: (value) => value === "true",
    },
    drop("drop_joint_volts", t("car.post_to_clamp")),
    drop("drop_ground_volts", t("car.post_to_chassis")),
    drop("drop_starter_volts", t("car.post_to_starter")),
    {
      kind: "ticks",
      name: "waits",
      label: t("car.what_stop_start_waits_for"),
      words: WAITS,
      fine: "waits_checked",
      wrong: "waits_found",
      when: (_, { complaint }) => complaint === "stop_start_stopped",
    },
  ],
};

export const RUNG: Rung<"car"> = {
  letter: "A",
  quiet: t("car.charging_clamps_drain"),
  Form: rungForm(SPEC),
  summary: (reading) => {
    return [
      reading.idle_volts ? t("car.v_running_2", { idle_volts: reading.idle_volts }) : "",
      reading.drain_ma != null ? t("car.drain_ma", { drain_ma: reading.drain_ma }) : "",
      reading.clamp_moves ? t("car.clamp_loose") : "",
      reading.unregistered ? t("car.not_registered") : "",
      reading.short_trips ? t("car.short_trips_2") : "",
      reading.waits_checked?.length ? t("car.of_10_looked_at", { count: reading.waits_checked.length }) : "",
      reading.waits_found?.length ? t("car.found_wrong_2", { count: reading.waits_found.length }) : "",
      reading.drop_joint_volts != null || reading.drop_ground_volts != null || reading.drop_starter_volts != null
        ? t("car.volt_drop_read")
        : "",
    ]
      .filter(Boolean)
      .join(", ");
  },
};
