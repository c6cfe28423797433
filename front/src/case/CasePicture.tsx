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
              ? (index, x, y) => <CellFigure shown={cells[index]} number={index + 1} x={x} y={y} />
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

/** Cell by cell from the positive post; those that the core names are marked. */
export function cellFigures(read: Schema["Cells"] | undefined, says: Schema["Finding"] | undefined): CellShown[] {
  const isNamed = (place: number) => says?.places.includes(place) ?? false;
  if (read?.on_charge?.length) return read.on_charge.map((state, place) => ({ text: state, low: isNamed(place) }));
  const gravities = read?.specific_gravities ?? [];
  const row = gravities.length ? gravities : (read?.cell_volts ?? []);
  return row.map((value, place) => ({
    text: gravities.length ? value.toFixed(3).slice(1) : value.toFixed(2),
    low: isNamed(place),
  }));
}

interface CellProps {
  shown: CellShown | undefined;
  /** Counted from the positive post. */
  number: number;
  x: number;
  y: number;
}

/** The cell's number in its vent and its figure beside it: every second one stands lower, so that neighbours do not touch. */
function CellFigure({ shown, number, x, y }: CellProps) {
  if (shown === undefined) return null;
  const figure = { fontSize: 16.5, fontWeight: 750, fill: shown.low ? "var(--failed-on-lead)" : "var(--on-ink)" };
  return (
    <g textAnchor="middle">
      {shown.low && (
        <rect
          x={x - 13}
          y={y - 13}
          width={26}
          height={26}
          fill="var(--failed-on-lead)"
          transform={`rotate(45 ${x} ${y})`}
        />
      )}
      <text
        x={x}
        y={y + 5.5}
        style={{ fontSize: 16, fontWeight: 700, fill: shown.low ? "var(--lead)" : "var(--on-ink)" }}
      >
        {number}
      </text>
      <text x={x} y={y + (number % 2 === 0 ? 36 : -23)} style={figure}>
        {shown.text}
      </text>
    </g>
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
        style={{ fontSize: 18, fontWeight: 700, fill: mark.view === "top" ? "var(--on-ink)" : "var(--ink)" }}
      >
        {words}
      </text>
    </g>
  );
}
