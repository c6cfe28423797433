/** The shelf: every battery in the house by where it stands. What needs a hand stands in front, the quiet ones close behind. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { Button as AriaButton, Dialog, DialogTrigger, Link, Popover } from "react-aria-components";
import styled from "styled-components";
import { shelf } from "../api/queries";
import { FrontShape, UNKNOWN_SIZE } from "../case/Case";
import { nowMs } from "../kit/clock";
import { HANDS, OUTCOMES, PLACES, whenOf } from "../kit/words";
import { towards } from "../vane/geometry";
import { InlineMark, toneOf, type Outcome } from "../vane/outcomes";
import { BETWEEN, behindWidth, FRONT, layOut, type Group, type OnShelf } from "./layout";

const SCALE = 0.178;
const TALLEST_MM = 262;
const EMPTY: OnShelf[] = [];

const Board = styled.nav`
  display: flex;
  gap: ${BETWEEN}px;
  align-items: flex-end;
  overflow-x: auto;
  overflow-y: hidden;
  min-width: 0;
  padding: 4px 16px 4px;
  border-top: 2px solid var(--rule);
  background: var(--shelf);
  min-height: 122px;
  scrollbar-width: thin;
  &[data-brief="true"] {
    padding: 4px 8px;
    flex-wrap: wrap;
    gap: 0 12px;
    min-height: 0;
  }
`;
const Place = styled.section`
  flex: none;
`;
const Standing = styled.ul`
  display: flex;
  align-items: flex-end;
  border-bottom: 2.5px solid var(--rule);
  min-height: 74px;
`;
const NameOfPlace = styled(AriaButton)`
  min-height: 44px;
  margin: 0 0 -10px;
  padding: 0 4px 12px 0;
  border: none;
  background: none;
  cursor: pointer;
  font-size: 16px;
  color: var(--soft);
  white-space: nowrap;
  position: sticky;
  left: 0;
  b {
    color: var(--ink);
    font-weight: 700;
  }
  &[data-hovered] {
    color: var(--ink);
  }
`;
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
const Behind = styled(AriaButton)`
  display: block;
  min-width: 44px;
  padding: 0 0 24px;
  border: none;
  background: none;
  cursor: pointer;
  svg {
    display: block;
  }
  &[data-hovered] {
    background: var(--ground);
  }
`;
const Sheet = styled(Popover)`
  width: min(440px, 96vw);
  max-height: 70vh;
  overflow: auto;
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 10px 12px;
  h2 {
    font-size: 19px;
    padding: 4px 6px;
  }
`;
const Row = styled(Link)`
  display: grid;
  grid-template-columns: 62px 20px 1fr auto;
  gap: 10px;
  align-items: center;
  min-height: 44px;
  padding: 2px 6px;
  border-radius: 6px;
  text-decoration: none;
  color: inherit;
  font-size: 16px;
  cursor: pointer;
  b {
    font-size: 20px;
    font-weight: 780;
  }
  &[aria-current="true"] {
    box-shadow: inset 4px 0 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
`;

/** A hand is needed now: its time has come, or it waits at the counter or on the bench for its next step. */
export function handOf(battery: OnShelf, now: Date): { word: string; now: boolean } {
  if (battery.needs_hand_at) {
    const word = whenOf(battery.needs_hand_at, now);
    return { word, now: word === "now" };
  }
  const waits = battery.place === "counter" || battery.place === "bench" || battery.place === "ready";
  return { word: HANDS[battery.next_step ?? "look"] ?? "", now: waits };
}

export function Shelf({ current }: { current: number | null }) {
  const { data } = useQuery(shelf);
  const now = useMinute();
  const [board, width] = useWidth();
  useEffect(() => {
    board.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [board, current, data]);
  if (data?.length === 0)
    return (
      <Board ref={board} aria-label="Shelf">
        <p>No battery is in the house. Take one in at the counter and it stands here.</p>
      </Board>
    );
  const brief = width < BRIEF_UNDER;
  const groups = layOut(data ?? EMPTY, (battery) => handOf(battery, now).now, current, width);
  return (
    <Board ref={board} aria-label="Shelf" data-brief={brief} onKeyDown={walk} onWheel={roll}>
      {groups.map((group) => (
        <OnePlace key={group.place} group={group} now={now} current={current} brief={brief} />
      ))}
    </Board>
  );
}

/** Arrows go from battery to battery. */
function walk(event: React.KeyboardEvent<HTMLElement>) {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (!way) return;
  const all = [...event.currentTarget.querySelectorAll<HTMLElement>("a, button")];
  const next = all[all.indexOf(document.activeElement as HTMLElement) + way];
  if (!next) return;
  event.preventDefault();
  next.focus();
}

/** A wheel moves the shelf sideways, where it is longer than the screen. */
function roll(event: React.WheelEvent<HTMLElement>) {
  if (Math.abs(event.deltaY) > Math.abs(event.deltaX)) event.currentTarget.scrollLeft += event.deltaY;
}

interface PlaceProps {
  group: Group;
  now: Date;
  current: number | null;
  /** On a phone each place is its name and count; one touch shows what stands there. */
  brief: boolean;
}

/** Under this width [px] there is no room for cases. */
const BRIEF_UNDER = 680;

function OnePlace({ group, now, current, brief }: PlaceProps) {
  const { place, front, behind, count } = group;
  const all = [...front, ...behind];
  const sheet = (
    <Sheet placement="top start">
      <Dialog aria-label={`All ${PLACES[place]}`}>
        {({ close }) => (
          <>
            <h2>
              {PLACES[place]}, {count}
            </h2>
            {all.map((battery) => (
              <Row
                key={battery.tag}
                href={`/check/${battery.tag}`}
                onPress={close}
                {...(battery.tag === current ? { "aria-current": "true" as const } : {})}
              >
                <b>{battery.tag}</b>
                {battery.outcome ? <InlineMark outcome={battery.outcome} size={20} /> : <span />}
                <span>{battery.line || "no line"}</span>
                <span>{handOf(battery, now).word}</span>
              </Row>
            ))}
          </>
        )}
      </Dialog>
    </Sheet>
  );
  return (
    <Place aria-label={`${PLACES[place]}, ${count}`}>
      {!brief && (
        <Standing>
          {front.map((battery) => (
            <li key={battery.tag}>
              <OneBattery battery={battery} now={now} current={battery.tag === current} />
            </li>
          ))}
          {behind.length > 0 && (
            <li>
              <DialogTrigger>
                <Behind aria-label={`${behind.length} more ${PLACES[place]}`}>
                  <BehindOnes group={group} />
                </Behind>
                {sheet}
              </DialogTrigger>
            </li>
          )}
        </Standing>
      )}
      <DialogTrigger>
        <NameOfPlace>
          {PLACES[place]} <b>{count}</b>
          <span className="quiet">: show all</span>
        </NameOfPlace>
        {sheet}
      </DialogTrigger>
    </Place>
  );
}

function OneBattery({ battery, now, current }: { battery: OnShelf; now: Date; current: boolean }) {
  const size = battery.size ?? UNKNOWN_SIZE;
  const hand = handOf(battery, now);
  const { outcome } = battery;
  const unsafe = outcome === "unsafe" || battery.place === "held_apart";
  const says = `Tag ${battery.tag}, ${battery.line || "no line"}, ${outcome ? OUTCOMES[outcome] : "not read yet"}: `;
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
          style={{ fontSize: Math.min((size.length_mm * 1.45) / digits, 108) }}
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
function BehindOnes({ group: { behind, step } }: { group: Group }) {
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

const ROOM_BESIDE = 36;

/** How wide the board is inside; what is known before it is drawn is the window. */
function useWidth() {
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(() => window.innerWidth - ROOM_BESIDE);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const seen = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  return [box, width] as const;
}

function useMinute(): Date {
  const [now, setNow] = useState(() => new Date(nowMs()));
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date(nowMs())), 20_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}
