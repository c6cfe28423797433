/** The case to be touched: front above, top below. Says which view was touched and where, as shares from the top left. */
import type { ReactNode } from "react";
import styled from "styled-components";
import { FrontShape, TopShape, type Size } from "./Case";

export const TOUCH_GAP = 16;

export type View = "front" | "top";

const Drawing = styled.svg`
  display: block;
  width: 172px;
  flex: none;
  cursor: crosshair;
  touch-action: none;
`;

interface Props {
  size: Size;
  label: string;
  onTouch: (view: View, across: number, down: number) => void;
  children: ReactNode;
}

const within = (share: number) => Math.min(Math.max(share, 0), 1);

export function TouchCase({ size, label, onTouch, children }: Props) {
  const { length_mm: long, height_mm: high, width_mm: deep } = size;
  const touched = (view: View) => (event: React.PointerEvent<SVGRectElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onTouch(view, within((event.clientX - box.left) / box.width), within((event.clientY - box.top) / box.height));
  };
  return (
    <Drawing viewBox={`-4 -4 ${long + 8} ${high + deep + TOUCH_GAP + 10}`} role="img" aria-label={label}>
      <g transform={`translate(0 ${high})`}>
        <FrontShape size={size} />
        <rect y={-high} width={long} height={high} fill="transparent" onPointerDown={touched("front")} />
      </g>
      <g transform={`translate(0 ${high + TOUCH_GAP})`}>
        <TopShape size={size} />
        <rect width={long} height={deep} fill="transparent" onPointerDown={touched("top")} />
      </g>
      {children}
    </Drawing>
  );
}

/** Where a touched place lies in the drawing. */
export const placeOf = (size: Size, view: View, across: number, down: number, gap = TOUCH_GAP) => ({
  x: size.length_mm * across,
  y: view === "top" ? size.height_mm + gap + size.width_mm * down : size.height_mm * down,
});
