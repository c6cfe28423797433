/** What a draft of a reading is called from its first key to its last, and what it corrects. */
import type { Reading } from "../../api/client";
import { newId, nowIso } from "../../kit/clock";
import type { Waiting } from "../../kit/outbox";
import type { Standing } from "./drafts";
import type { Kind } from "./rungs";

export interface Named {
  id: string;
  taken_at: string;
  replaces?: string;
}

export const NAME = "named";

/** A new name; what mends a refused entry keeps its time and what it corrects: it never becomes a reading of its own. */
export function nameAfter(refused: Waiting | undefined): Named {
  const of = refused?.reading;
  const keepsTime = of && !refused.problem?.errors.some((fault) => fault.path === "taken_at");
  return {
    id: newId(),
    taken_at: keepsTime ? of.taken_at : nowIso(),
    ...(of?.replaces ? { replaces: of.replaces } : {}),
  };
}

/** Taking an entry back. */
export const withdrawalOf = (entry: Standing, reason: string) =>
  ({
    kind: "withdrawal",
    id: newId(),
    taken_at: nowIso(),
    replaces: entry.reading.id ?? "",
    ...(reason ? { reason } : {}),
  }) as Reading;

export const awaits = (standing: Standing[], kind: Kind) =>
  standing.some((entry) => entry.reading.kind === kind && entry.keptAt === null && !entry.refused);

export function omit<Value>(record: Record<string, Value>, key: string): Record<string, Value> {
  return Object.fromEntries(Object.entries(record).filter(([name]) => name !== key));
}

export function sameBody(one: Reading, other: Reading): boolean {
  const plain = (reading: Reading) => {
    const { id, taken_at, taken_by, replaces, tool, ...body } = reading;
    void [id, taken_at, taken_by, replaces];
    return JSON.stringify(
      Object.entries(body)
        .filter(([, value]) => value !== null && value !== "")
        .sort()
        .concat([["tool", tool?.equipment_id ?? 0]]),
    );
  };
  return plain(one) === plain(other);
}
