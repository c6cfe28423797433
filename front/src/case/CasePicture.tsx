/** Front and top view of one battery, to one scale, with its measures. */
import styled from "styled-components";
import type { Schema } from "../api/client";
import { SIGNS } from "../kit/words";
import { caseOf, FrontShape, TopShape, type Size } from "./Case";
import { placeOf } from "./TouchCase";
import { localFigure } from "../language/catalogue";
import { t } from "../language/t";
import { wordOf } from "../language/speak";

const RatingWord = styled.text`
  font-size: 28px;
  font-weight: 800;
  fill: #1f2226;
`;

const Drawing = styled.svg`
  display: block;
  flex: none;
  width: 100%;
  height: auto;
  overflow: visible;
  .charge {
    font-size: 40px;
    font-weight: 780;
    fill: var(--ink);
  }
`;

interface Props {
  size: Size | null;
  /** The battery's own volts: a 6 V battery has three cells in whatever case. */
  volts?: number | undefined;
  charge?: Schema["StateOfCharge"] | null;
  outcome?: Schema["Outcome"] | null;
  marks?: Schema["Mark"][];
  cells?: CellShown[];
}

export const chargeWords = (charge: Schema["StateOfCharge"]) => {
  const [low, high] = [Math.round(charge.low_pct), Math.round(charge.high_pct)];
  return charge.at_most ? t("case_picture.at_most", { high }) : low === high ? `${high} %` : `${low}–${high} %`;
};

export function CasePicture({ size, volts, charge, outcome, marks = [], cells = [] }: Props) {
  const known = caseOf(size, volts);
  const wide = 250;
  const left = (wide - known.length_mm) / 2;
  const gap = 16;
  const tall = known.height_mm + gap + known.width_mm + 8;
  const words = charge ? chargeWords(charge) : "";
  const says = `${size ? t("case_picture.group_positive_on_the", { code: size.code, positive_side: wordOf(size.positive_side) }) : t("case_picture.size_not_known")}${words ? t("case_picture.charged", { words }) : ""}`;
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
      <g transform={`translate(${left} ${known.height_mm + gap})`} opacity={size ? 1 : 0.4}>
        <TopShape
          size={known}
          cell={
            cells.length
              ? (index, x, y) => (
                  <CellFigure shown={cells[index]} number={index + 1} x={x} y={y} length={known.length_mm} />
                )
              : undefined
          }
        />
      </g>
      {marks.length > 0 && (
        <g transform={`translate(${left} 0)`}>
          {apart(marks).map((mark, index) => (
            <MarkSpot key={mark.sign} mark={mark} size={known} gap={gap} number={index + 1} />
          ))}
        </g>
      )}
    </Drawing>
  );
}

/** Signs that were put on the same spot stand beside one another. */
function apart(marks: Schema["Mark"][]): Schema["Mark"][] {
  const seen = new Map<string, number>();
  return marks.map((mark) => {
    const spot = `${mark.view ?? "front"} ${Math.round((mark.across ?? 0.5) * 6)} ${Math.round((mark.down ?? 0.5) * 5)}`;
    const before = seen.get(spot) ?? 0;
    seen.set(spot, before + 1);
    return { ...mark, across: ((mark.across ?? 0.5) + before * 0.22) % 1, down: mark.down ?? 0.5 };
  });
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
  const gravities = says?.figures?.length ? says.figures : (read?.specific_gravities ?? []);
  const row = gravities.length ? gravities : (read?.cell_volts ?? []);
  return row.map((value, place) => ({
    text: gravities.length ? localFigure(value.toFixed(3)).slice(1) : localFigure(value.toFixed(2)),
    low: isNamed(place),
  }));
}

interface CellProps {
  shown: CellShown | undefined;
  /** Counted from the positive post. */
  number: number;
  x: number;
  y: number;
  /** Of the case, so that no figure stands over its edge. */
  length: number;
}

const HALF_FIGURE = 28;

/** The cell's number in its vent and its figure beside it: every second one stands lower, so that neighbours do not touch. */
function CellFigure({ shown, number, x, y, length }: CellProps) {
  if (shown === undefined) return null;
  const figure = { fontSize: 27, fontWeight: 750, fill: shown.low ? "var(--failed-on-lead)" : "var(--on-ink)" };
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
        y={y + 8.5}
        style={{ fontSize: 24, fontWeight: 700, fill: shown.low ? "var(--lead)" : "var(--on-ink)" }}
      >
        {number}
      </text>
      <text
        x={Math.min(Math.max(x, HALF_FIGURE), length - HALF_FIGURE)}
        y={y + (number % 2 === 0 ? 44 : -21)}
        style={figure}
      >
        {shown.text}
      </text>
    </g>
  );
}

/** A sign where it was touched. The front view's top left is the origin; the top view lies below it by the gap. */
export function MarkSpot({
  mark,
  size,
  gap,
  number,
}: {
  mark: Schema["Mark"];
  size: Size;
  gap: number;
  /** Where its name stands beside the drawing; without one the name stands in it. */
  number?: number;
}) {
  const { x, y } = placeOf(size, mark.view ?? "front", mark.across ?? 0.5, mark.down ?? 0.5, gap);
  const words = SIGNS[mark.sign];
  if (number !== undefined)
    return (
      <g pointerEvents="none">
        <circle cx={x} cy={y} r={20} fill="var(--band-b)" stroke="var(--band-a)" strokeWidth={5} />
        <RatingWord x={x} y={y + 10} textAnchor="middle">
          {number}
        </RatingWord>
      </g>
    );
  return (
    <g pointerEvents="none">
      <circle cx={x} cy={y} r={13} fill="var(--band-b)" stroke="var(--band-a)" strokeWidth={4} />
      <path d={`M${x - 6} ${y + 6} L${x + 6} ${y - 6}`} stroke="var(--band-a)" strokeWidth={4} />
      <text
        x={x + (x > size.length_mm * 0.6 ? -20 : 20)}
        y={y + 6}
        textAnchor={x > size.length_mm * 0.6 ? "end" : "start"}
        style={{ fontSize: 27, fontWeight: 700, fill: mark.view === "top" ? "var(--on-ink)" : "var(--ink)" }}
      >
        {words}
      </text>
    </g>
  );
}
