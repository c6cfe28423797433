/** The shelf: every battery in the house by where it stands. What needs a hand stands in front, the quiet ones close behind. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { Button as AriaButton, Dialog, DialogTrigger, Link } from "react-aria-components";
import styled from "styled-components";
import { shelf } from "../api/queries";
import { nowMs } from "../kit/clock";
import { PLACES } from "../kit/words";
import { InlineMark } from "../vane/outcomes";
import { Coming, useComingWidth } from "./Coming";
import { BETWEEN, layOut, type Group, type OnShelf } from "./layout";
import { NameOfPlace, Place, Sheet, Standing } from "./parts";
import { BehindOnes, handOf, OneBattery } from "./OneBattery";
import { t } from "../language/t";

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

export function Shelf({ current }: { current: number | null }) {
  const { data } = useQuery(shelf);
  const now = useMinute();
  const [board, width] = useWidth();
  const coming = useComingWidth(width);
  useEffect(() => {
    board.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [board, current, data]);
  if (data?.length === 0)
    return (
      <Board ref={board} aria-label={t("shelf.shelf")}>
        <p>{t("shelf.no_battery_is_in_the_house_take_one_in_at")}</p>
        <Coming brief={width < BRIEF_UNDER} width={width} />
      </Board>
    );
  const brief = width < BRIEF_UNDER;
  const groups = layOut(data ?? EMPTY, (battery) => handOf(battery, now).now, current, width - coming);
  return (
    <Board ref={board} aria-label={t("shelf.shelf")} data-brief={brief} onKeyDown={walk} onWheel={roll}>
      {groups.map((group) => (
        <OnePlace key={group.place} group={group} now={now} current={current} brief={brief} />
      ))}
      <Coming brief={brief} width={width} />
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
      <Dialog aria-label={t("shelf.all", { place: PLACES[place] })}>
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
                <span>{battery.line || t("screens.no_line")}</span>
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
                <Behind aria-label={t("shelf.more", { count: behind.length, place: PLACES[place] })}>
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
          <span className="quiet">{t("screens.show_all")}</span>
        </NameOfPlace>
        {sheet}
      </DialogTrigger>
    </Place>
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
