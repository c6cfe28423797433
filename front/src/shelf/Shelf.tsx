/** The shelf: every battery in the house to scale, grouped by where it stands, the one that needs a hand stepping forward. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../api/client";
import { shelf } from "../api/queries";
import { FrontShape, UNKNOWN_SIZE } from "../case/Case";
import { nowMs } from "../kit/clock";
import { HANDS, OUTCOMES, PLACES, whenOf } from "../kit/words";

type OnShelf = Schema["ShelfBattery"];
const ORDER: OnShelf["place"][] = ["counter", "bench", "on_charge", "standing", "ready", "held_apart"];
const SCALE = 0.195;
const TALLEST_MM = 252;

const Board = styled.nav`
  display: flex;
  gap: 15px;
  align-items: flex-end;
  overflow-x: auto;
  overflow-y: hidden;
  padding: 6px 18px 8px;
  border-top: 2px solid var(--rule);
  background: var(--shelf);
  min-height: 122px;
`;
const Group = styled.section`
  flex: none;
  h2 {
    font-size: 14px;
    font-weight: 500;
    color: var(--soft);
    line-height: 1.2;
  }
  ul {
    display: flex;
    gap: 0;
    align-items: flex-end;
  }
`;
const Spot = styled(Link)`
  display: block;
  min-width: 52px;
  padding: 3px 1px 0;
  text-decoration: none;
  color: inherit;
  text-align: center;
  border-radius: 8px 8px 0 0;
  border: 2px solid transparent;
  cursor: pointer;
  svg {
    display: block;
    margin: 0 auto;
    border-bottom: 2.5px solid var(--rule);
    transition: transform 160ms ease-out;
  }
  text {
    font-size: 88px;
    font-weight: 780;
    fill: var(--ink);
  }
  &[data-current="true"] {
    border-color: var(--ink);
    background: var(--ground);
  }
  &[data-hovered] {
    background: var(--ground);
  }
`;
const When = styled.span<{ $now: boolean }>`
  display: block;
  font-size: 13.5px;
  line-height: 1.45;
  color: ${({ $now }) => ($now ? "var(--copper)" : "var(--soft)")};
  font-weight: ${({ $now }) => ($now ? 700 : 400)};
`;

/** A hand is needed now: its time has come, or it waits at the counter or on the bench for its next step. */
export function handOf(battery: OnShelf, now: Date): { word: string; now: boolean } {
  if (battery.needs_hand_at) {
    const word = whenOf(battery.needs_hand_at, now);
    return { word, now: word === "now" };
  }
  const waits = battery.place === "counter" || battery.place === "bench" || battery.place === "ready";
  return { word: HANDS[battery.next_step ?? "measure_volts"] ?? "", now: waits };
}

export function Shelf({ current }: { current: number | null }) {
  const { data } = useQuery(shelf);
  const now = useMinute();
  const places = Map.groupBy(data ?? [], (battery) => battery.place);
  if (data?.length === 0)
    return (
      <Board aria-label="Shelf">
        <p>No battery is in the house. Take one in at the counter and it stands here.</p>
      </Board>
    );
  return (
    <Board aria-label="Shelf">
      {ORDER.filter((place) => places.has(place)).map((place) => (
        <Group key={place} aria-label={PLACES[place]}>
          <ul>
            {places.get(place)?.map((battery) => (
              <li key={battery.tag}>
                <OneBattery battery={battery} now={now} current={battery.tag === current} />
              </li>
            ))}
          </ul>
          <h2>{PLACES[place]}</h2>
        </Group>
      ))}
    </Board>
  );
}

function OneBattery({ battery, now, current }: { battery: OnShelf; now: Date; current: boolean }) {
  const size = battery.size ?? UNKNOWN_SIZE;
  const hand = handOf(battery, now);
  const { outcome } = battery;
  const says = `Tag ${battery.tag}, ${battery.line || "no line"}, ${outcome ? OUTCOMES[outcome] : "not read yet"}: `;
  return (
    <Spot href={`/check/${battery.tag}`} data-current={current}>
      <span className="quiet">{says}</span>
      <svg
        width={Math.max(size.length_mm * SCALE + 8, 50)}
        height={TALLEST_MM * SCALE + 8}
        viewBox={`-8 -${TALLEST_MM + 30} ${size.length_mm + 16} ${TALLEST_MM + 34}`}
        aria-hidden
      >
        <g transform={`translate(0 ${hand.now ? -34 : 0})`}>
          <FrontShape size={size} low={battery.charge_low_pct} high={battery.charge_high_pct} outcome={outcome}>
            {battery.place === "held_apart" && <HeldApart length={size.length_mm} />}
          </FrontShape>
          <text
            x={size.length_mm / 2}
            y={-(size.height_mm - 33) / 2 + 28}
            textAnchor="middle"
            style={{ fontSize: size.length_mm > 230 ? 92 : 78 }}
          >
            {battery.tag}
          </text>
        </g>
      </svg>
      <When $now={hand.now}>{hand.word}</When>
    </Spot>
  );
}

/** The black-and-cream band of what must not be touched. */
function HeldApart({ length }: { length: number }) {
  const stripes = Math.ceil(length / 24);
  return (
    <g>
      <rect x={9} y={-30} width={length - 18} height={22} fill="var(--band-b)" />
      {Array.from({ length: stripes }, (_, index) => (
        <path key={index} d={`M${9 + index * 24} -8 l12 -22 h10 l-12 22 Z`} fill="var(--band-a)" />
      ))}
    </g>
  );
}

function useMinute(): Date {
  const [now, setNow] = useState(() => new Date(nowMs()));
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date(nowMs())), 20_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}
