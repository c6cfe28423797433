/** What the charger is asked, in figures and in words, beside the plan and the curve. */
import { nowMs } from "../../kit/clock";
import { ChargeCurve, PlanLines } from "./ChargeCurve";
import type { Spec } from "./spec";

export const CHARGE: Spec = {
  starts: ({ stay, before }) => ({
    start_amps: before?.[0]?.["minutes"] === 0 ? String(before[0]["amps"]) : "",
    hours: stay ? ((nowMs() - Date.parse(stay.connected_at)) / 3_600_000).toFixed(1) : "",
  }),
  asks: ({ limits, complaint }) => <PlanLines limits={limits} complaint={complaint} />,
  draws: ({ limits, battery, says }, values) => (
    <ChargeCurve plan={limits.plan} values={values} ah={battery.capacity_ah_20h} put={says?.figures?.[0]} />
  ),
  enough: (body) => body["volts"] !== undefined && (body["amps"] != null || body["start_volts"] != null),
  fields: [
    { kind: "number", name: "amps", label: "Amps now", unit: "A", wide: 118 },
    { kind: "volts", name: "volts", label: "Volts now", unit: "V", wide: 104 },
    { kind: "number", name: "start_amps", label: "At the start", unit: "A", wide: 96 },
    { kind: "number", name: "hours", label: "On charge", unit: "h", wide: 96 },
    {
      kind: "flag",
      name: "finished",
      label: "Full and taken off",
      words: { yes: "full and taken off", no: "still on charge" },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "recovery",
      label: "Recovery charge",
      words: { yes: "a recovery charge", no: "an ordinary charge" },
      say: { letter: "X", rare: true },
    },
    {
      kind: "volts",
      name: "start_volts",
      label: "Volts before",
      unit: "V",
      say: { before: "on a maintainer from", empty: "volts before", letter: "Q", rare: true },
    },
    {
      kind: "number",
      name: "ah_in",
      label: "Ah put in",
      unit: "Ah",
      say: { before: "put in", empty: "Ah not read", rare: true },
    },
    { kind: "log", of: "amps", name: "log", label: "On the way" },
  ],
};
