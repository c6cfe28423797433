/** The boards of the rack: each slopes down to the hand at the left; a battery stands where it is due and rolls toward now. */
import { useLayoutEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { nowMs } from "../../kit/clock";
import { clockWords } from "../../kit/words";
import { Board } from "./Board";
import type { Standing } from "./work";
import { scaleOf, ticksOf } from "./scale";
import type { Rack, Work } from "./work";
import { t } from "../../language/t";

const Now = styled.span`
  left: 0;
`;

const Frame = styled.section`
  position: relative;
  min-width: 0;
  overflow: auto;
`;
/** As tall as all boards together: the post and the nights stand behind every one of them. */
const All = styled.div`
  position: relative;
  padding: 4px 16px 10px 22px;
`;
const Times = styled.div`
  position: sticky;
  top: 0;
  z-index: 2;
  height: 26px;
  background: var(--ground);
  color: var(--soft);
  font-size: 16px;
  span {
    position: absolute;
    white-space: nowrap;
  }
  b {
    color: var(--copper);
  }
`;
/** The copper post at the hand: what touches it needs one. */
const Post = styled.div`
  position: absolute;
  left: 12px;
  top: 4px;
  bottom: 10px;
  width: 6px;
  border-radius: 3px;
  background: var(--copper);
`;
const Night = styled.div`
  position: absolute;
  top: 30px;
  bottom: 10px;
  background: var(--shelf);
  pointer-events: none;
`;

interface Props {
  rack: Rack;
  onShelf: Schema["ShelfBattery"][];
  chosen: number | null;
  onChoose: (tag: number) => void;
  onWork: (work: Work) => void;
}

export function Boards({ rack, onShelf, chosen, onChoose, onWork }: Props) {
  const frame = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const box = frame.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setWidth(box.clientWidth - 38));
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  const now = new Date(nowMs());
  const scale = scaleOf(rack.now, rack.until, Math.max(width, 200));
  const closed = closedOf(rack);
  const known = new Map(onShelf.map((one) => [one.tag, one]));
  const of = (tags: number[], at: (tag: number) => string): Standing[] =>
    tags.map((tag) => ({ tag, at: at(tag), kind: "stands", shown: known.get(tag) }));
  const due = (tag: number) => known.get(tag)?.needs_hand_at ?? rack.now;
  return (
    <Frame ref={frame} aria-label={t("boards.boards_of_the_rack")}>
      <All>
        <Times aria-hidden>
          <Now>
            <b>{t("screens.now")}</b>
          </Now>
          {ticksOf(scale, rack.open, (moment) => clockWords(moment, now)).map(({ at, x, word }) => (
            <span key={at} style={{ left: x }}>
              {word}
            </span>
          ))}
        </Times>
        {closed.map(([from, to]) => (
          <Night
            key={from}
            aria-hidden
            style={{ left: 22 + scale.x(from), width: Math.max(scale.x(to) - scale.x(from), 2) }}
          ></Night>
        ))}
        <Post aria-hidden />
        {rack.chargers.flatMap((charger) =>
          Array.from({ length: charger.outputs }, (_, index) => {
            const output = index + 1;
            const slots = rack.slots.filter((slot) => slot.charger_id === charger.id && slot.output === output);
            return (
              <Board
                key={`${charger.id}-${output}`}
                name={charger.outputs > 1 ? `${charger.name}/${output}` : charger.name}
                words={boardWords(charger)}
                lane={{ charger_id: charger.id, output }}
                isOut={charger.state !== "in_use"}
                standings={slots
                  .map((slot) => ({
                    tag: slot.tag,
                    at: slot.ends_at,
                    kind: slot.hangs ? ("hangs" as const) : ("planned" as const),
                    slot,
                    shown: known.get(slot.tag),
                  }))
                  .sort((one, other) => one.at.localeCompare(other.at))}
                scale={scale}
                chosen={chosen}
                onChoose={onChoose}
                onWork={onWork}
              />
            );
          }),
        )}
        {rack.unnamed.length > 0 && (
          <Board
            name={t("boards.on_charge_nobody_said_where")}
            words={t("boards.touch_one_and_pick_its_charger")}
            standings={of(rack.unnamed, due)}
            scale={scale}
            chosen={chosen}
            onChoose={onChoose}
            onWork={onWork}
          />
        )}
        <Board
          name={t("boards.rest")}
          words={t("boards.before_the_test_by_the_house")}
          standings={of(rack.resting, due).sort((one, other) => one.at.localeCompare(other.at))}
          scale={scale}
          chosen={chosen}
          onChoose={onChoose}
          onWork={onWork}
        />
        <Board
          name={t("boards.ready")}
          words={
            rack.ready.length
              ? t("boards.call", {
                  t: rack.ready.length === 1 ? t("boards.its_customer") : t("boards.their_customers"),
                })
              : t("boards.none_yet")
          }
          standings={of(rack.ready, () => rack.now)}
          scale={scale}
          chosen={chosen}
          onChoose={onChoose}
          onWork={onWork}
        />
      </All>
    </Frame>
  );
}

const STATES: Record<string, string> = { out_of_order: t("boards.out_of_order"), away: t("boards.retired") };

function boardWords(charger: Schema["ChargerView"]): string {
  if (charger.state !== "in_use") return STATES[charger.state] ?? charger.state;
  return charger.night ? charger.words : t("boards.not_overnight", { words: charger.words });
}

/** When nobody is in, between now and the end of what is planned. */
function closedOf(rack: Rack): [string, string][] {
  const edges = [rack.now, ...rack.open.flatMap(({ opens, closes }) => [opens, closes]), rack.until];
  const spans: [string, string][] = [];
  for (let index = 0; index + 1 < edges.length; index += 2) {
    const [from, to] = [edges[index] ?? "", edges[index + 1] ?? ""];
    if (Date.parse(to) - Date.parse(from) > 10 * 60_000) spans.push([from, to]);
  }
  return spans;
}
