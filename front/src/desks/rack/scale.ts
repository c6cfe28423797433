/** Where a moment stands on a board: near time is wide, the night narrow. */
import { t } from "../../language/t";

/** Half of the near hours' width goes to what lies nearer than this [h]. */
const NEAR_HOURS = 0.75;

export interface Scale {
  x: (moment: string | number) => number;
  /** How long before something that stands at a place is due [h]. */
  width: number;
  now: number;
}

export function scaleOf(now: string, until: string, width: number): Scale {
  const from = Date.parse(now);
  const hours = (Date.parse(until) - from) / 3_600_000;
  const whole = Math.log1p(hours / NEAR_HOURS);
  return {
    width,
    now: from,
    x: (moment) => {
      const at = typeof moment === "number" ? moment : Date.parse(moment);
      const ahead = Math.min(Math.max((at - from) / 3_600_000, 0), hours);
      return (width * Math.log1p(ahead / NEAR_HOURS)) / whole;
    },
  };
}

const STEPS_MINUTES = [15, 30, 60, 120];

/** The words along the top: soon by how long, later by the clock, at the shop's opening and closing. */
export function ticksOf(
  scale: Scale,
  open: { opens: string; closes: string }[],
  clock: (moment: string) => string,
): { at: number; x: number; word: string }[] {
  const near = STEPS_MINUTES.map((minutes) => ({
    at: scale.now + minutes * 60_000,
    word: minutes < 60 ? (minutes === 15 ? "¼ h" : "½") : `${minutes / 60} h`,
  }));
  const far = open
    .flatMap(({ opens, closes }) => [
      { at: Date.parse(opens), word: clock(opens) },
      { at: Date.parse(closes), word: t("scale.closed", { closes: clock(closes) }) },
    ])
    .filter(({ at }) => at - scale.now > 130 * 60_000);
  const all = [...near, ...far]
    .map((one) => ({ ...one, x: Math.min(scale.x(one.at), scale.width - one.word.length * 8.6) }))
    .sort((one, other) => one.x - other.x);
  // the clock outranks the count where they would stand on one another
  const inRoom: typeof all = [];
  for (const one of all) {
    const last = inRoom.at(-1);
    const long = last?.word.length ?? 0;
    const room = long > 9 ? 118 : long > 5 ? 92 : 58;
    if (!last || one.x - last.x >= room) inRoom.push(one);
    else if (far.some(({ at }) => at === one.at) && near.some(({ at }) => at === last.at))
      inRoom[inRoom.length - 1] = one;
  }
  return inRoom;
}

/** How far apart two cases may stand before one stands on the other [px]. */
export const CASE_WIDE = 56;

/** Cases of one board moved apart where they are due within minutes of one another, so that each can be touched. */
export function spread(wanted: number[], width: number): number[] {
  const placed: number[] = [];
  for (const x of wanted) placed.push(Math.max(x, (placed.at(-1) ?? -Infinity) + CASE_WIDE + 4));
  const over = (placed.at(-1) ?? 0) + CASE_WIDE - width;
  if (over <= 0) return placed;
  // too many for the board: the last stands at its end, those before it closer
  let right = width - CASE_WIDE;
  for (let index = placed.length - 1; index >= 0; index -= 1) {
    placed[index] = Math.min(placed[index] ?? 0, right);
    right = (placed[index] ?? 0) - CASE_WIDE - 4;
  }
  return placed.map((x) => Math.max(x, 0));
}
