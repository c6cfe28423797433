/** One board: the line it slopes along, what stands on it where it is due, the charge still missing before it, its promise. */
import styled from "styled-components";
import { nowMs } from "../../kit/clock";
import { clockWords } from "../../kit/words";
import { RackCase } from "./RackCase";
import { CASE_WIDE, spread, type Scale } from "./scale";
import type { Lane, Standing, Work } from "./work";
import { t } from "../../language/t";

const HIGH = 72;
/** The board's fall from its far end to the hand [px]. */
const FALL = 10;
const CASE_HIGH = 46;

const Row = styled.div`
  position: relative;
  height: ${HIGH}px;
  &[data-over="true"] {
    background: color-mix(in srgb, var(--copper-pale) 55%, transparent);
    border-radius: 8px;
  }
`;
const Name = styled.p`
  position: absolute;
  right: 0;
  bottom: -3px;
  max-width: 70%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 16px;
  line-height: 1;
  color: var(--soft);
  pointer-events: none;
  b {
    font-weight: 650;
    color: var(--ink);
  }
`;
const Lines = styled.svg`
  position: absolute;
  inset: 0;
  overflow: visible;
  pointer-events: none;
`;
const FlagWord = styled.span<{ $late: boolean }>`
  position: absolute;
  top: 0;
  font-size: 16px;
  line-height: 1;
  white-space: nowrap;
  color: ${({ $late }) => ($late ? "var(--failed)" : "var(--sound)")};
  font-weight: 650;
  pointer-events: none;
`;

interface Props {
  name: string;
  words: string;
  lane?: Lane;
  isOut?: boolean;
  standings: Standing[];
  scale: Scale;
  chosen: number | null;
  onChoose: (tag: number) => void;
  onWork: (work: Work) => void;
}

export function Board({ name, words, lane, isOut = false, standings, scale, chosen, onChoose, onWork }: Props) {
  const boardAt = (x: number) => HIGH - 14 - (FALL * x) / scale.width;
  const places = spread(
    standings.map(({ at }) => Math.min(scale.x(at), scale.width - CASE_WIDE)),
    scale.width,
  );
  const now = new Date(nowMs());
  const promised = standings.filter(({ slot }) => slot?.promised_at);
  return (
    <Row
      role="group"
      aria-label={`${name}: ${standings.length === 0 ? t("board.empty") : standings.map(({ tag }) => tag).join(", ")}`}
      data-out={isOut}
      {...(lane ? { "data-lane": `${lane.charger_id}-${lane.output}` } : {})}
    >
      <Lines aria-hidden>
        {standings.map(({ slot, tag }, index) => {
          // the wedge before a battery on charge is the charge still missing
          const x = places[index] ?? 0;
          if (!slot?.hangs || x < 6) return null;
          const tall = 4 + (13 * slot.missing_pct) / 100;
          return <path key={tag} d={`M2 ${boardAt(0)} V${boardAt(0) - tall} L${x} ${boardAt(x)} Z`} fill="var(--copper)" opacity={0.55} />; // prettier-ignore
        })}
        <path
          d={`M0 ${boardAt(0)} L${scale.width} ${boardAt(scale.width)}`}
          stroke={isOut ? "var(--line)" : "var(--rule)"}
          strokeWidth={3}
          {...(isOut ? { strokeDasharray: "10 8" } : {})}
        />
        {promised.map(({ slot, tag }) => {
          const x = scale.x(slot?.promised_at ?? "");
          const ink = slot?.late_minutes ? "var(--failed)" : "var(--sound)";
          return (
            <g key={tag}>
              <path d={`M${x} ${boardAt(x)} V4`} stroke={ink} strokeWidth={2.5} />
              <path d={`M${x} 3 l18 7 l-18 7 Z`} fill={ink} />
            </g>
          );
        })}
      </Lines>
      {promised.map(({ slot, tag }) => {
        const x = scale.x(slot?.promised_at ?? "");
        const late = (slot?.late_minutes ?? 0) > 0;
        const right = x > scale.width - 150;
        const [from, to] = right ? [x - 130, x] : [x, x + 136];
        // so does another flag's word
        const near = promised.some((other) => {
          const left = scale.x(other.slot?.promised_at ?? "");
          return other.tag !== tag && (left > x || (left === x && other.tag > tag)) && left - x < 140;
        });
        // a case that stands there hides it: its own words say what was promised
        if (near || places.some((place) => place < to && place + CASE_WIDE > from)) return null;
        return (
          <FlagWord key={tag} $late={late} style={right ? { right: scale.width - x + 6 } : { left: x + 22 }}>
            {tag} {clockWords(slot?.promised_at ?? "", now)}
          </FlagWord>
        );
      })}
      {standings.map((one, index) => {
        const x = places[index] ?? 0;
        return (
          <RackCase
            key={one.tag}
            standing={one}
            board={name}
            lane={lane}
            x={x}
            y={boardAt(x + CASE_WIDE / 2) - CASE_HIGH - 1}
            isChosen={chosen === one.tag}
            onChoose={onChoose}
            onWork={onWork}
          />
        );
      })}
      <Name>
        <b>{name}</b> {words}
      </Name>
    </Row>
  );
}
