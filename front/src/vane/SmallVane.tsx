/** A vane as small as a word: turned to an outcome, its pennant as long as the odds of it. */
import { towards } from "./geometry";
import { toneOf, type Outcome } from "./outcomes";

const SIZE = { width: 64, height: 34 };
const MAST = { x: 32, y: 24 };
const LONGEST = 22;

export function SmallVane({ outcome, odds }: { outcome: Outcome; odds: number }) {
  const turned = `rotate(${-towards(outcome)} ${MAST.x} ${MAST.y})`;
  const long = 6 + (LONGEST - 6) * Math.min(Math.max(odds, 0), 1);
  const tone = toneOf(outcome);
  return (
    <svg width={SIZE.width} height={SIZE.height} viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} aria-hidden="true">
      <circle cx={MAST.x} cy={MAST.y} r={LONGEST} fill="none" stroke="var(--line)" strokeDasharray="1.5 4" />
      <g transform={turned}>
        <path d={`M${MAST.x} ${MAST.y - 5} h${long} l-5 5 l5 5 h${-long} Z`} fill={tone.ink} opacity={0.28} />
        <path d={`M${MAST.x} ${MAST.y} h${long}`} stroke={tone.ink} strokeWidth={3} strokeLinecap="round" />
      </g>
      <circle cx={MAST.x} cy={MAST.y} r={3.2} fill="var(--ground)" stroke="var(--ink)" strokeWidth={2} />
    </svg>
  );
}
