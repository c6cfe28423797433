/** Where the stations stand around the mast, how feathers lie, how the arrow turns. Degrees, 0 to the right, counter-clockwise. */
import type { Schema } from "../api/client";
import type { Outcome } from "./outcomes";

export const VIEW = { width: 500, height: 212 };
export const CENTRE = { x: 250, y: 118 };

/** Landmarks round a roof: good on the right, failed on the left, not knowing ahead. */
const PLACES: Record<Outcome, { x: number; y: number }> = {
  sound: { x: 376, y: 116 },
  needs_charge: { x: 354, y: 70 },
  watch: { x: 326, y: 34 },
  cannot_tell: { x: 250, y: 30 },
  leaks_charge: { x: 174, y: 36 },
  worn_out: { x: 128, y: 71 },
  dead_cell: { x: 108, y: 110 },
  unsafe: { x: 112, y: 151 },
};

export interface Place {
  x: number;
  y: number;
  label: { x: number; y: number; anchor: "start" | "middle" | "end" };
}

/** A station's place and where its word stands: always on the side away from the mast. */
export function placeOf(outcome: Outcome): Place {
  const { x, y } = PLACES[outcome];
  if (outcome === "cannot_tell") return { x, y, label: { x, y: y - 13, anchor: "middle" } };
  const away = x > CENTRE.x ? 1 : -1;
  return { x, y, label: { x: x + 17 * away, y: y + 6, anchor: away > 0 ? "start" : "end" } };
}

/** The way from the mast to a station. */
export function towards(outcome: Outcome): number {
  const { x, y } = PLACES[outcome];
  return (Math.atan2(CENTRE.y - y, x - CENTRE.x) * 180) / Math.PI;
}

export const at = (degrees: number, distance: number) => {
  const turn = (degrees * Math.PI) / 180;
  return { x: CENTRE.x + Math.cos(turn) * distance, y: CENTRE.y - Math.sin(turn) * distance };
};

const SHORTEST = 46;
const LONGEST = 76;
const FAN = 17;

export interface Reason {
  finding: Schema["Finding"];
  /** Its place among the judgement's findings. */
  index: number;
  /** The number it carries on its feather and in its line; none when it weighs nothing. */
  number: number | null;
}

export interface Reasons {
  /** With a feather, what decides before the rest; then what is doubtful without one. */
  shown: Reason[];
  /** Noted, weighing nothing. */
  quiet: Reason[];
  dropped: Reason[];
}

const hasFeather = (finding: Schema["Finding"]) => finding.points_to !== null && finding.weight > 0;

/** The findings as the panel and the vane both number them. */
export function reasonsOf({ findings, outcome }: Schema["Judgement"]): Reasons {
  const all = findings.map((finding, index) => ({ finding, index, number: null as number | null }));
  const rank = ({ finding }: Reason) =>
    finding.weight + (finding.points_to === outcome ? 1 : 0) + (finding.status === "counts" ? 0.5 : 0);
  const inSight = all
    .filter(({ finding }) => finding.status !== "dropped" && hasFeather(finding))
    .sort((one, other) => rank(other) - rank(one))
    .map((reason, place) => ({ ...reason, number: place + 1 }));
  const bare = all.filter(({ finding }) => finding.status !== "dropped" && !hasFeather(finding));
  return {
    shown: [...inSight, ...bare.filter(({ finding }) => finding.status === "doubtful")],
    quiet: bare.filter(({ finding }) => finding.status === "counts"),
    dropped: all.filter(({ finding }) => finding.status === "dropped"),
  };
}

export interface Feather extends Reason {
  angle: number;
  length: number;
}

/** A feather for every reason that weighs: opposite to its station, as long as it weighs, fanned out. */
export function feathersOf(reasons: Reason[]): Feather[] {
  const weighing = reasons.filter(({ number }) => number !== null);
  const byOutcome = Map.groupBy(weighing, ({ finding }) => finding.points_to as Outcome);
  return [...byOutcome].flatMap(([outcome, group]) =>
    group.map((reason, index) => ({
      ...reason,
      angle: towards(outcome) + 180 + (index - (group.length - 1) / 2) * FAN,
      length: SHORTEST + (LONGEST - SHORTEST) * Math.min(reason.finding.weight, 1),
    })),
  );
}

/** Half the wedge's opening: narrow when sure. */
export const wedgeOf = (confidence: number) => 4 + (1 - confidence) * 30;
