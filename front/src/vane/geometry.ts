/** Where the stations stand and how feathers lie. Angles in degrees, 0 to the right, counter-clockwise. */
import type { Schema } from "../api/client";
import type { Outcome } from "./outcomes";

export const CENTRE = { x: 215, y: 143 };
export const RADIUS = 106;

/** Good on the right, failed on the left, not knowing at the top. */
export const STATIONS: Record<Outcome, number> = {
  sound: -2,
  needs_charge: 28,
  watch: 58,
  cannot_tell: 90,
  leaks_charge: 118,
  worn_out: 143,
  dead_cell: 168,
  unsafe: 193,
};

export const at = (degrees: number, distance: number) => {
  const turn = (degrees * Math.PI) / 180;
  return { x: CENTRE.x + Math.cos(turn) * distance, y: CENTRE.y - Math.sin(turn) * distance };
};

const SHORTEST = 44;
const LONGEST = 92;
const FAN = 13;

export interface Feather {
  finding: Schema["Finding"];
  angle: number;
  length: number;
  /** Others lie beside it: a short one leaves its words to the list below. */
  crowded: boolean;
  /** Its place among those that point the same way. */
  place: number;
}

/** A feather for every finding that points somewhere: opposite to its station, as long as it weighs, fanned out. */
export function feathersOf(findings: Schema["Finding"][]): Feather[] {
  const placed: Feather[] = [];
  const byOutcome = Map.groupBy(
    findings.filter((finding) => finding.points_to && finding.weight > 0),
    (finding) => finding.points_to as Outcome,
  );
  for (const [outcome, group] of byOutcome) {
    group.forEach((finding, index) => {
      const aside = (index - (group.length - 1) / 2) * FAN;
      placed.push({
        finding,
        angle: STATIONS[outcome] + 180 + aside,
        crowded: group.length > 1,
        place: index,
        length: SHORTEST + (LONGEST - SHORTEST) * Math.min(finding.weight, 1),
      });
    });
  }
  return placed;
}

/** Half the wedge's opening: narrow when sure. */
export const wedgeOf = (confidence: number) => 4 + (1 - confidence) * 34;
