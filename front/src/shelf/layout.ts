/** Which batteries of the shelf stand out in front and which stand close behind one another, so that every place keeps its room. */
import type { Schema } from "../api/client";
import { PLACES } from "../kit/words";

export type OnShelf = Schema["ShelfBattery"];
export type PlaceName = OnShelf["place"];

export const ORDER: PlaceName[] = ["counter", "bench", "on_charge", "standing", "ready", "held_apart", "on_the_way"];

/** How wide things are [px]. */
export const FRONT = 62;
export const BEHIND = 15;
const THINNEST = 3;
export const BETWEEN = 16;
const NAME = 84;
const LETTER = 8;
const COUNT_LETTERS = 3;
/** How wide a place's name with its count is [px]. */
const nameWidth = (place: PlaceName) => Math.max(NAME, LETTER * (PLACES[place].length + COUNT_LETTERS));

export interface Group {
  place: PlaceName;
  front: OnShelf[];
  behind: OnShelf[];
  /** How far each of those behind shows [px]. */
  step: number;
  count: number;
}

/**
 * Share the width out: first the battery in hand and one of each place that needs a hand, then one more of each place in turn
 * for as long as there is room; the rest of a place stands close behind. No place is ever left out.
 */
export function layOut(
  batteries: OnShelf[],
  needsHand: (battery: OnShelf) => boolean,
  current: number | null,
  width: number,
): Group[] {
  const places = ORDER.map((place) => batteries.filter((one) => one.place === place)).filter((all) => all.length > 0);
  // What needs a hand comes first in its place, the battery in hand before all.
  const sorted = places.map((all) =>
    all.toSorted((one, other) => rank(other) - rank(one) || all.indexOf(one) - all.indexOf(other)),
  );
  function rank(one: OnShelf) {
    return (one.tag === current ? 2 : 0) + (needsHand(one) ? 1 : 0);
  }
  const taken: number[] = sorted.map((all) => (all.some((one) => rank(one) >= 1) ? 1 : 0));
  const used = (step: number) =>
    sorted.reduce(
      (sum, all, index) =>
        sum +
        BETWEEN +
        Math.max(
          nameWidth(all[0]?.place ?? "counter"),
          (taken[index] ?? 0) * FRONT + behindWidth(all.length - (taken[index] ?? 0), step),
        ),
      0,
    );
  let step = BEHIND;
  while (step > THINNEST && used(step) > width) step -= 1;
  for (let grew = true; grew;) {
    grew = false;
    for (const [index, all] of sorted.entries()) {
      const now = taken[index] ?? 0;
      if (now >= all.length) continue;
      taken[index] = now + 1;
      if (used(step) <= width) grew = true;
      else taken[index] = now;
    }
  }
  return sorted.map((all, index) => ({
    place: all[0]?.place ?? "counter",
    front: all.slice(0, taken[index]),
    behind: all.slice(taken[index]),
    step,
    count: all.length,
  }));
}

export const behindWidth = (count: number, step: number) => (count === 0 ? 0 : 14 + count * step);
