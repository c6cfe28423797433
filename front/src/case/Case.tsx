/** The battery drawn from its real outside: front for height and charge, top for posts and cells. Units are millimetres. */
import type { ReactNode } from "react";
import type { Schema } from "../api/client";
import { toneOf, type Outcome } from "../vane/outcomes";
import styled from "styled-components";

const SignWord = styled.text`
  font-size: 26px;
  font-weight: 800;
  fill: #fffdf7;
`;

export type Size = Schema["Size"];

const LID_MM = 18;
const POST_MM = 15;

/** Where the posts' middles are, from the left end, for a case seen with the posts near. */
export function postsOf(size: Size) {
  const inset = Math.min(size.length_mm * 0.13, 42);
  const right = size.length_mm - inset;
  return size.positive_side === "right" ? { plus: right, minus: inset } : { plus: inset, minus: right };
}

interface FrontProps {
  size: Size;
  low?: number | null;
  high?: number | null;
  outcome?: Outcome | null;
  children?: ReactNode;
}

/** Front view as a group: origin at the bottom left of the case. The fill is the least charge, the paler band the most. */
export function FrontShape({ size, low, high, outcome, children }: FrontProps) {
  const { length_mm: length, height_mm: height } = size;
  const top = -height;
  const posts = postsOf(size);
  const inside = height - LID_MM - POST_MM - 10;
  const tone = toneOf(outcome);
  const level = (pct: number | null | undefined) => (inside * (pct ?? 0)) / 100;
  return (
    <g>
      <rect x={posts.minus - 9} y={top} width={18} height={POST_MM + 4} fill="var(--lead)" rx={2} />
      <rect x={posts.plus - 9} y={top} width={18} height={POST_MM + 4} fill="var(--copper)" rx={2} />
      <rect
        x={3}
        y={top + POST_MM + LID_MM - 4}
        width={length - 6}
        height={height - POST_MM - LID_MM + 4}
        fill="var(--sheet)"
        stroke="var(--lead)"
        strokeWidth={4}
        rx={5}
      />
      {high != null && high > 0 && (
        <rect x={9} y={-6 - level(high)} width={length - 18} height={level(high)} fill={tone.pale} opacity={0.55} />
      )}
      {low != null && low > 0 && (
        <rect x={9} y={-6 - level(low)} width={length - 18} height={level(low)} fill={tone.pale} />
      )}
      <rect x={0} y={top + POST_MM} width={length} height={LID_MM} fill="var(--lead)" rx={4} />
      {children}
    </g>
  );
}

interface TopProps {
  size: Size;
  ghost?: boolean;
  /** What stands on each cell, counted from the positive post. */
  cell?: ((index: number, x: number, y: number) => ReactNode) | undefined;
}

/** The middle of a cell along the case, counted from the positive post, wherever that is. */
export function cellAcross(size: Size, index: number) {
  const cells = size.nominal_volts / 2;
  const fromLeft = size.positive_side === "right" ? cells - 1 - index : index;
  return (size.length_mm * (fromLeft + 0.5)) / cells;
}

/** Top view as a group: origin at the far left corner, posts near the viewer (below). */
export function TopShape({ size, ghost = false, cell }: TopProps) {
  const { length_mm: length, width_mm: width, nominal_volts: volts } = size;
  const posts = postsOf(size);
  const cells = volts / 2;
  const y = width - 36;
  return (
    <g opacity={ghost ? 0.9 : 1}>
      <rect
        width={length}
        height={width}
        rx={6}
        fill={ghost ? "none" : "var(--lead)"}
        stroke={ghost ? "var(--copper)" : "var(--ink)"}
        strokeWidth={ghost ? 3.5 : 2}
        strokeDasharray={ghost ? "9 6" : undefined}
      />
      {!ghost &&
        Array.from({ length: cells }, (_, index) => {
          const x = cellAcross(size, index);
          return (
            <g key={index}>
              <circle
                cx={x}
                cy={width * 0.36}
                r={Math.min(14, length / cells / 3)}
                fill="var(--ground)"
                opacity={0.25}
                stroke="var(--ground)"
                strokeWidth={2}
              />
              {cell?.(index, x, width * 0.36)}
            </g>
          );
        })}
      <Post x={posts.minus} y={y} sign="−" ghost={ghost} />
      <Post x={posts.plus} y={y} sign="+" ghost={ghost} positive />
    </g>
  );
}

function Post({
  x,
  y,
  sign,
  ghost,
  positive = false,
}: {
  x: number;
  y: number;
  sign: string;
  ghost: boolean;
  positive?: boolean;
}) {
  return (
    <g>
      <circle
        cx={x}
        cy={y}
        r={16}
        fill={ghost ? "none" : positive ? "#c4601f" : "#15171a"}
        stroke={ghost ? "var(--copper)" : "#fffdf7"}
        strokeWidth={2.5}
        strokeDasharray={ghost ? "5 4" : undefined}
      />
      {!ghost && (
        <SignWord x={x} y={y + 9} textAnchor="middle">
          {sign}
        </SignWord>
      )}
    </g>
  );
}

/** The case of a size, or a plain box; its cells are the battery's own, whatever else comes in a case like that. */
export const caseOf = (size: Size | null, nominalVolts: number | undefined): Size => ({
  ...(size ?? UNKNOWN_SIZE),
  nominal_volts: nominalVolts ?? size?.nominal_volts ?? 12,
});

/** A plain box when the size is not known yet, so that nothing jumps when it is. */
export const UNKNOWN_SIZE: Size = {
  code: "",
  system: "",
  length_mm: 245,
  width_mm: 175,
  height_mm: 190,
  nominal_volts: 12,
  positive_side: "right",
  post: "top",
  same_as: "",
  source: "",
  standing: "",
};
