/** One battery on the shelf: its case to scale, its tag, its little vane, the word of its next hand; and the quiet ones behind. */
import { Link } from "react-aria-components";
import styled from "styled-components";
import { FrontShape, UNKNOWN_SIZE } from "../case/Case";
import { HANDS, outcomeWords, whenOf } from "../kit/words";
import { towards } from "../vane/geometry";
import { toneOf, type Outcome } from "../vane/outcomes";
import { behindWidth, FRONT, type Group, type OnShelf } from "./layout";
import { t } from "../language/t";

const SCALE = 0.178;
const TALLEST_MM = 262;
/** A tag is read from a metre away [px]. */
const TAG_PX = 24;

const Spot = styled(Link)`
  display: block;
  width: ${FRONT}px;
  text-decoration: none;
  color: inherit;
  text-align: center;
  cursor: pointer;
  svg {
    display: block;
    margin: 0 auto;
    overflow: visible;
  }
  text {
    font-weight: 780;
    fill: var(--ink);
  }
  padding-bottom: 5px;
  &[aria-current="true"] {
    background: var(--ground);
    box-shadow: inset 0 -5px 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--ground);
  }
`;
const Word = styled.span<{ $now: boolean }>`
  display: block;
  font-size: 16px;
  line-height: 1.2;
  height: 19px;
  overflow: hidden;
  white-space: nowrap;
  color: ${({ $now }) => ($now ? "var(--copper)" : "var(--soft)")};
  font-weight: ${({ $now }) => ($now ? 700 : 400)};
`;

/** A hand is needed now: its time has come, or it waits at the counter or on the bench for its next step. */
export function handOf(battery: OnShelf, now: Date): { word: string; now: boolean } {
  const { needs_hand_at: at } = battery;
  if (at) return { word: whenOf(at, now), now: new Date(at) <= now };
  if (battery.place === "on_the_way") return { word: t("one_battery.sent"), now: false };
  const waits = battery.place === "counter" || battery.place === "bench" || battery.place === "ready";
  return { word: HANDS[battery.next_step ?? "look"] ?? "", now: waits };
}

export function OneBattery({ battery, now, current }: { battery: OnShelf; now: Date; current: boolean }) {
  const size = battery.size ?? UNKNOWN_SIZE;
  const hand = handOf(battery, now);
  const { outcome } = battery;
  const unsafe = outcome === "unsafe" || battery.place === "held_apart";
  const says = t("one_battery.tag", {
    tag: battery.tag,
    line: battery.line || t("screens.no_line"),
    outcome: outcome ? outcomeWords(outcome, battery.next_step) : t("screens.not_read_yet"),
  });
  const digits = String(battery.tag).length;
  return (
    <Spot href={`/check/${battery.tag}`} {...(current ? { "aria-current": "true" as const } : {})}>
      <span className="quiet">{says}</span>
      <svg
        width={FRONT - 4}
        height={(TALLEST_MM + 66) * SCALE}
        viewBox={`${size.length_mm / 2 - (FRONT - 4) / SCALE / 2} -${TALLEST_MM + 62} ${(FRONT - 4) / SCALE} ${TALLEST_MM + 66}`}
        aria-hidden
      >
        {outcome && <LittleVane outcome={outcome} x={size.length_mm / 2} y={-size.height_mm} />}
        <FrontShape size={size} low={battery.charge_low_pct} high={battery.charge_high_pct} outcome={outcome}>
          {unsafe && <Band length={size.length_mm} height={size.height_mm} />}
        </FrontShape>
        <text
          x={size.length_mm / 2}
          y={-(size.height_mm - 33) / 2 + 30}
          textAnchor="middle"
          style={{ fontSize: TAG_PX / SCALE / Math.max(digits / 3, 1) }}
        >
          {battery.tag}
        </text>
      </svg>
      <Word $now={hand.now}>{hand.word}</Word>
    </Spot>
  );
}

/** A vane the size of a matchstick, turned to the outcome, so that the room can be read from the door. */
function LittleVane({ outcome, x, y }: { outcome: Outcome; x: number; y: number }) {
  const turn = (towards(outcome) * Math.PI) / 180;
  const tip = { x: x + Math.cos(turn) * 76, y: y - 24 - Math.sin(turn) * 40 };
  const { ink } = toneOf(outcome);
  return (
    <g stroke={ink} strokeWidth={11} strokeLinecap="round">
      <path d={`M${x} ${y + 12} V${y - 24}`} strokeWidth={7} stroke="var(--lead)" />
      <path d={`M${x - (tip.x - x) * 0.45} ${y - 24 + (y - 24 - tip.y) * 0.45} L${tip.x} ${tip.y}`} />
      <circle cx={tip.x} cy={tip.y} r={10} fill={ink} stroke="none" />
    </g>
  );
}

/** The black-and-cream band of what must not be touched. */
function Band({ length, height }: { length: number; height: number }) {
  const stripes = Math.ceil(length / 34);
  const tall = Math.min(46, height * 0.24);
  return (
    <g>
      <rect x={6} y={-tall - 6} width={length - 12} height={tall} fill="var(--band-b)" />
      {Array.from({ length: stripes }, (_, index) => {
        const from = 6 + index * 34;
        const right = Math.min(from + 30, length - 6);
        return (
          <path
            key={index}
            d={`M${from} -6 L${Math.min(from + 14, right)} ${-tall - 6} H${right} L${Math.min(from + 16, right)} -6 Z`}
            fill="var(--band-a)"
          />
        );
      })}
    </g>
  );
}

/** The quiet ones of a place, close behind one another. */
export function BehindOnes({ group: { behind, step } }: { group: Group }) {
  const width = behindWidth(behind.length, step);
  return (
    <svg width={Math.max(width, 44)} height={46} aria-hidden>
      {behind.map((battery, index) => {
        const tone = toneOf(battery.outcome);
        const x = index * step;
        return (
          <g key={battery.tag}>
            <rect
              x={x + 1}
              y={12}
              width={step + 11}
              height={33}
              rx={3}
              fill="var(--sheet)"
              stroke="var(--line)"
              strokeWidth={1.5}
            />
            {battery.charge_low_pct != null && (
              <rect
                x={x + 3}
                y={43 - (27 * battery.charge_low_pct) / 100}
                width={step + 7}
                height={(27 * battery.charge_low_pct) / 100}
                fill={tone.pale}
                opacity={0.6}
              />
            )}
            <rect x={x} y={8} width={step + 13} height={6} rx={2} fill="var(--soft)" opacity={0.55} />
          </g>
        );
      })}
    </svg>
  );
}
