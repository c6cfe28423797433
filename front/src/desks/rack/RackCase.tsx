/** A battery on its board: solid where it is there, dashed where it is planned; moved by drag, by touch, or by the arrows. */
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { nowMs } from "../../kit/clock";
import { clockWords, OUTCOMES } from "../../kit/words";
import { toneOf } from "../../vane/outcomes";
import type { Lane, Standing } from "./work";
import { CASE_WIDE } from "./scale";
import type { Work } from "./work";
import { t } from "../../language/t";

const HIGH = 46;
/** A finger that shakes is no drag [px]. */
const SHAKES = 8;

const Case = styled.button<{ $planned: boolean }>`
  position: absolute;
  width: ${CASE_WIDE}px;
  height: ${HIGH}px;
  padding: 0;
  border: none;
  background: none;
  cursor: grab;
  touch-action: none;
  z-index: 1;
  svg {
    display: block;
    overflow: visible;
  }
  text {
    font-size: 21px;
    font-weight: 780;
    fill: ${({ $planned }) => ($planned ? "var(--soft)" : "var(--ink)")};
  }
  &[data-dragged="true"] {
    z-index: 5;
    cursor: grabbing;
    pointer-events: none;
  }
`;

/** The battery that the arrows carry: where it stands next it takes the focus. */
let isCarried: number | null = null;

interface Props {
  standing: Standing;
  board: string;
  lane: Lane | undefined;
  x: number;
  y: number;
  isChosen: boolean;
  onChoose: (tag: number) => void;
  onWork: (work: Work) => void;
}

export function RackCase({ standing, board, lane, x, y, isChosen, onChoose, onWork }: Props) {
  const { tag, kind, slot, shown, at } = standing;
  const [by, setBy] = useState<{ x: number; y: number } | null>(null);
  const from = useRef<{ x: number; y: number; id: number } | null>(null);
  const over = useRef<HTMLElement | null>(null);
  const self = useRef<HTMLButtonElement>(null);
  const place = lane ? `${lane.charger_id}-${lane.output}` : "";
  useEffect(() => {
    if (isCarried !== tag) return;
    isCarried = null;
    self.current?.focus();
  }, [tag, place]);
  const planned = kind === "planned";
  const tone = toneOf(shown?.outcome ?? null);
  const ink = slot && slot.late_minutes > 0 ? "var(--failed)" : planned ? "var(--soft)" : "var(--lead)";
  const full = shown?.charge_low_pct ?? (slot ? 100 - slot.missing_pct : 0);

  function look(element: HTMLElement | null) {
    if (over.current === element) return;
    over.current?.removeAttribute("data-over");
    element?.setAttribute("data-over", "true");
    over.current = element;
  }

  /** Onto another board: one that is planned is set there, one that hangs is clamped there. */
  function put(to: string | undefined) {
    const [charger, output] = (to ?? "").split("-").map(Number);
    if (!charger || !output || (lane && lane.charger_id === charger && lane.output === output)) return;
    if (kind === "planned") onWork({ does: "pin", tag, charger_id: charger, output });
    else onWork({ does: "connect", tag, charger_id: charger, output });
  }

  function step(element: HTMLElement, down: boolean) {
    const boards = [...document.querySelectorAll<HTMLElement>("[data-lane]:not([data-out='true'])")];
    const here = element.closest<HTMLElement>("[data-lane]");
    isCarried = tag; // it stands on another board then: the focus goes with it
    const next = here ? boards[boards.indexOf(here) + (down ? 1 : -1)] : boards[down ? 0 : boards.length - 1];
    if (next) put(next.dataset["lane"]);
  }

  const words = [
    t("rack_case.on", { tag, board }),
    kind === "planned" ? t("rack_case.planned") : kind === "hangs" ? t("screens.on_charge_2") : "",
    t("rack_case.due", { at: clockWords(at, new Date(nowMs())) }),
    slot?.pinned ? t("rack_case.set_by_hand") : "",
    slot?.promised_at ? t("screens.promised", { promised_at: clockWords(slot.promised_at, new Date(nowMs())) }) : "",
    slot && slot.late_minutes > 0 ? t("rack_case.behind_its_promise") : "",
    shown?.outcome ? OUTCOMES[shown.outcome] : "",
  ].filter(Boolean);

  return (
    <Case
      ref={self}
      type="button"
      $planned={planned}
      aria-label={words.join(", ")}
      aria-pressed={isChosen}
      data-tag={tag}
      data-kind={kind}
      data-dragged={by !== null}
      style={{ left: x + (by?.x ?? 0), top: y + (by?.y ?? 0) }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        from.current = { x: event.clientX, y: event.clientY, id: event.pointerId };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!from.current) return;
        const moved = { x: event.clientX - from.current.x, y: event.clientY - from.current.y };
        if (!by && Math.hypot(moved.x, moved.y) < SHAKES) return;
        setBy(moved);
        look(boardUnder(event.clientX, event.clientY));
      }}
      onPointerUp={() => {
        const to = over.current;
        const dragged = by !== null;
        from.current = null;
        look(null);
        setBy(null);
        if (dragged) put(to?.dataset["lane"]);
        else onChoose(tag);
      }}
      onPointerCancel={() => {
        from.current = null;
        look(null);
        setBy(null);
      }}
      onClick={(event) => event.detail === 0 && onChoose(tag)} // by key: a pointer was heard already
      onKeyDown={(event) => {
        if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
        event.preventDefault();
        step(event.currentTarget, event.key === "ArrowDown");
      }}
    >
      <svg width={CASE_WIDE} height={HIGH} aria-hidden>
        <rect
          x={3}
          y={8}
          width={CASE_WIDE - 6}
          height={HIGH - 9}
          rx={4}
          fill="var(--sheet)"
          stroke={ink}
          strokeWidth={2}
          {...(planned ? { strokeDasharray: "5 4" } : {})}
        />
        {!planned && (
          <rect
            x={5}
            y={HIGH - 3 - ((HIGH - 15) * full) / 100}
            width={CASE_WIDE - 10}
            height={((HIGH - 15) * full) / 100}
            fill={tone.pale}
          />
        )}
        <rect x={0} y={3} width={CASE_WIDE} height={7} rx={2} fill={planned ? "var(--line)" : "var(--lead)"} />
        <text x={CASE_WIDE / 2} y={HIGH / 2 + 13} textAnchor="middle">
          {tag}
        </text>
        {slot?.pinned && <circle cx={CASE_WIDE - 9} cy={17} r={4} fill="var(--copper)" />}
        {isChosen && <path d={`M2 ${HIGH + 2} H${CASE_WIDE - 2}`} stroke="var(--copper)" strokeWidth={5} />}
      </svg>
    </Case>
  );
}

/** The board under a finger, where one may be put. */
function boardUnder(x: number, y: number): HTMLElement | null {
  for (const element of document.elementsFromPoint(x, y)) {
    const board = element.closest<HTMLElement>("[data-lane]:not([data-out='true'])");
    if (board) return board;
  }
  return null;
}
