/** Every outcome has a colour, a shape and a word; never a colour alone. */
import type { Schema } from "../api/client";
import styled from "styled-components";

const Drawing = styled.svg`
  flex: none;
`;

export type Outcome = Schema["Outcome"];

export interface Tone {
  ink: string;
  pale: string;
}

const SOUND: Tone = { ink: "var(--sound)", pale: "var(--sound-pale)" };
const FAILED: Tone = { ink: "var(--failed)", pale: "var(--failed-pale)" };
const HAND: Tone = { ink: "var(--copper)", pale: "var(--copper-pale)" };
const DOUBT: Tone = { ink: "var(--doubt)", pale: "var(--doubt-pale)" };
const NONE: Tone = { ink: "var(--lead)", pale: "var(--lead-pale)" };

export const TONES: Record<Outcome, Tone> = {
  sound: SOUND,
  needs_charge: HAND,
  watch: DOUBT,
  cannot_tell: NONE,
  leaks_charge: FAILED,
  worn_out: FAILED,
  dead_cell: FAILED,
  unsafe: { ink: "var(--ink)", pale: "var(--band-b)" },
};

export const toneOf = (outcome: Outcome | null | undefined) => (outcome ? TONES[outcome] : NONE);

/** The outcome's shape, centred on (x, y). */
export function Mark({ outcome, x, y, size = 8 }: { outcome: Outcome; x: number; y: number; size?: number }) {
  const { ink } = TONES[outcome];
  const s = size;
  switch (outcome) {
    case "sound":
      return <circle cx={x} cy={y} r={s * 0.85} fill={ink} />;
    case "needs_charge":
      return (
        <g>
          <circle cx={x} cy={y} r={s * 0.85} fill="var(--ground)" stroke={ink} strokeWidth={s * 0.26} />
          <path d={`M${x - s * 0.85} ${y} A${s * 0.85} ${s * 0.85} 0 0 0 ${x + s * 0.85} ${y} Z`} fill={ink} />
        </g>
      );
    case "watch":
      return <circle cx={x} cy={y} r={s * 0.72} fill="var(--ground)" stroke={ink} strokeWidth={s * 0.42} />;
    case "cannot_tell":
      return <rect x={x - s} y={y - s * 0.34} width={s * 2} height={s * 0.68} fill={ink} />;
    case "leaks_charge":
      return <path d={`M${x - s} ${y - s * 0.8} H${x + s} L${x} ${y + s} Z`} fill={ink} />;
    case "worn_out":
      return (
        <path
          d={`M${x} ${y - s * 1.15} L${x + s * 1.15} ${y} L${x} ${y + s * 1.15} L${x - s * 1.15} ${y} Z`}
          fill={ink}
        />
      );
    case "dead_cell":
      return <rect x={x - s * 0.85} y={y - s * 0.85} width={s * 1.7} height={s * 1.7} fill={ink} />;
    case "unsafe":
      return (
        <g>
          <rect
            x={x - s}
            y={y - s}
            width={s * 2}
            height={s * 2}
            fill="var(--band-b)"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <path
            d={`M${x - s} ${y + s * 0.2} L${x + s * 0.2} ${y - s} H${x + s * 0.9} L${x - s} ${y + s * 0.9} Z M${x - s * 0.1} ${y + s} L${x + s} ${y - s * 0.1} V${y + s * 0.6} L${x + s * 0.6} ${y + s} Z`}
            fill="var(--band-a)"
          />
        </g>
      );
  }
}

/** The shape alone, inline with text. */
export function InlineMark({ outcome, size = 16 }: { outcome: Outcome; size?: number }) {
  return (
    <Drawing width={size} height={size} viewBox="0 0 20 20" aria-hidden>
      <Mark outcome={outcome} x={10} y={10} size={7.5} />
    </Drawing>
  );
}
