/** Front and top view of one battery, to one scale, with its measures. */
import styled from "styled-components";
import type { Schema } from "../api/client";
import { shownLength } from "../kit/units";
import { SIGNS } from "../kit/words";
import { FrontShape, TopShape, UNKNOWN_SIZE, type Size } from "./Case";
import { placeOf } from "./TouchCase";

const Drawing = styled.svg`
  display: block;
  flex: none;
  width: 100%;
  height: auto;
  .measure {
    font-size: 17px;
    fill: var(--soft);
  }
  .charge {
    font-size: 40px;
    font-weight: 780;
    fill: var(--ink);
  }
`;

interface Props {
  size: Size | null;
  store: Schema["StoreView"];
  charge?: Schema["StateOfCharge"] | null;
  outcome?: Schema["Outcome"] | null;
  marks?: Schema["Mark"][];
  cells?: CellShown[];
}

export const chargeWords = (charge: Schema["StateOfCharge"]) =>
  charge.at_most
    ? `at most ${Math.round(charge.high_pct)} %`
    : `${Math.round(charge.low_pct)}–${Math.round(charge.high_pct)} %`;

export function CasePicture({ size, store, charge, outcome, marks = [], cells = [] }: Props) {
  const known = size ?? UNKNOWN_SIZE;
  const wide = 300;
  const left = (wide - known.length_mm) / 2;
  const gap = 34;
  const tall = known.height_mm + gap + known.width_mm + 8;
  const words = charge ? chargeWords(charge) : "";
  const says = `${size ? `Group ${size.code}, positive on the ${size.positive_side}` : "Size not known"}${words ? `, ${words} charged` : ""}`;
  return (
    <Drawing
      style={{ aspectRatio: `${Math.max(wide, known.length_mm)} / ${tall}` }}
      viewBox={`${Math.min(0, left)} 0 ${Math.max(wide, known.length_mm)} ${tall}`}
      role="img"
      aria-label={says}
    >
      <g transform={`translate(${left} ${known.height_mm})`} opacity={size ? 1 : 0.4}>
        <FrontShape size={known} low={charge?.low_pct} high={charge?.high_pct} outcome={outcome}>
          <text className="charge" x={known.length_mm / 2} y={-(known.height_mm - 33) / 2 + 8} textAnchor="middle">
            {words}
          </text>
        </FrontShape>
      </g>
      {size && (
        <text className="measure" x={left + known.length_mm / 2} y={known.height_mm + 22} textAnchor="middle">
          {shownLength(known.length_mm, store)} × {shownLength(known.width_mm, store)} ×{" "}
          {shownLength(known.height_mm, store)}
        </text>
      )}
      <g transform={`translate(${left} ${known.height_mm + gap})`} opacity={size ? 1 : 0.4}>
        <TopShape
          size={known}
          cell={
            cells.length
              ? (index, x, y) => <CellFigure shown={cells[index]} x={x} y={y} stagger={index % 2 === 1} />
              : undefined
          }
        />
      </g>
      {marks.length > 0 && (
        <g transform={`translate(${left} 0)`}>
          {marks.map((mark) => (
            <MarkSpot key={mark.sign} mark={mark} size={known} gap={gap} />
          ))}
        </g>
      )}
    </Drawing>
  );
}

/** What stands on one cell of the drawing. */
export interface CellShown {
  text: string;
  low: boolean;
}

const UNDER_ITS_MATES = 0.05;

/** A cell well under its mates is drawn in the colour of failing, the same for gravity and volts; the rule is the core's. */
export function cellFigures(read: Schema["Cells"] | undefined): CellShown[] {
  if (read?.on_charge?.length) return read.on_charge.map((state) => ({ text: state, low: state === "still" }));
  const gravities = read?.specific_gravities ?? [];
  const row = gravities.length ? gravities : (read?.cell_volts ?? []);
  const best = Math.max(...row);
  return row.map((value) => ({
    text: gravities.length ? value.toFixed(3).slice(1) : value.toFixed(2),
    low: best - value >= UNDER_ITS_MATES,
  }));
}

interface CellProps {
  shown: CellShown | undefined;
  x: number;
  y: number;
  /** Every second figure stands lower, so that neighbours do not touch. */
  stagger: boolean;
}

function CellFigure({ shown, x, y, stagger }: CellProps) {
  if (shown === undefined) return null;
  return (
    <text
      x={x}
      y={y + (stagger ? 27 : -5)}
      textAnchor="middle"
      style={{ fontSize: 19, fontWeight: 750, fill: shown.low ? "#ffb3d4" : "#fffdf7" }}
    >
      {shown.low ? "▾" : ""}
      {shown.text}
    </text>
  );
}

/** A sign where it was touched. The front view's top left is the origin; the top view lies below it by the gap. */
export function MarkSpot({ mark, size, gap }: { mark: Schema["Mark"]; size: Size; gap: number }) {
  const { x, y } = placeOf(size, mark.view ?? "front", mark.across ?? 0.5, mark.down ?? 0.5, gap);
  const words = SIGNS[mark.sign];
  return (
    <g pointerEvents="none">
      <circle cx={x} cy={y} r={13} fill="var(--band-b)" stroke="var(--band-a)" strokeWidth={4} />
      <path d={`M${x - 6} ${y + 6} L${x + 6} ${y - 6}`} stroke="var(--band-a)" strokeWidth={4} />
      <text
        x={x + (x > size.length_mm * 0.6 ? -20 : 20)}
        y={y + 6}
        textAnchor={x > size.length_mm * 0.6 ? "end" : "start"}
        style={{ fontSize: 18, fontWeight: 700, fill: mark.view === "top" ? "#fffdf7" : "var(--ink)" }}
      >
        {words}
      </text>
    </g>
  );
}
