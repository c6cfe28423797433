/** What a charge is on the Check desk: its steps, and what was noted of one that goes on. */
import type { Reading, Schema } from "../../api/client";

export const CHARGES: ReadonlySet<Schema["StepKey"]> = new Set([
  "charge_and_retest",
  "equalise",
  "charge_and_watch",
  "recovery_charge",
]);

/** Amps at minutes of a charge that goes on, the last note among them; null where none does. */
export function logOf(last: Reading | undefined): { minutes: number; amps: number }[] | null {
  const run = last?.kind === "charge_run" && !last.finished && !last.stopped ? last : null;
  if (!run) return null;
  const points = (run.log ?? []).map(({ minutes, amps }) => ({ minutes, amps }));
  if (run.start_amps != null && points[0]?.minutes !== 0) points.unshift({ minutes: 0, amps: run.start_amps });
  if (run.amps != null && run.hours > 0) points.push({ minutes: Math.round(run.hours * 600) / 10, amps: run.amps });
  return points;
}
