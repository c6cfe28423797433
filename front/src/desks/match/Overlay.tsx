/** Old and new laid over one another from above and from the front, with the millimetres that differ. */
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { FrontShape, TopShape, type Size } from "../../case/Case";
import { lengthText } from "../../kit/units";
import { t } from "../../language/t";

const Drawing = styled.svg`
  display: block;
  flex: none;
  width: 100%;
  height: auto;
  max-height: 260px;
  @media (max-width: 599px) {
    max-height: none;
  }
`;
const Differences = styled.ul`
  font-size: 16px;
  line-height: 1.25;
  color: var(--soft);
  [data-differs="true"] {
    color: var(--copper);
    font-weight: 750;
  }
`;

interface Props {
  old: Size;
  fresh: Size;
  store: Schema["StoreView"];
}

const signed = (mm: number, store: Schema["StoreView"]) =>
  mm === 0 ? t("screens.the_same") : `${mm > 0 ? "+" : "−"}${lengthText(Math.abs(mm), store)}`;

export function Overlay({ old, fresh, store }: Props) {
  const wide = Math.max(old.length_mm, fresh.length_mm);
  const high = Math.max(old.height_mm, fresh.height_mm);
  const deep = Math.max(old.width_mm, fresh.width_mm);
  const rows: [string, number, number][] = [
    [t("overlay.length"), old.length_mm, fresh.length_mm],
    [t("overlay.width"), old.width_mm, fresh.width_mm],
    [t("overlay.height"), old.height_mm, fresh.height_mm],
  ];
  const says = rows.map(([what, before, after]) => `${what} ${signed(after - before, store)}`).join(", ");
  return (
    <>
      <Drawing
        style={{ aspectRatio: `${wide + 24} / ${high + deep + 46}` }}
        viewBox={`-12 -12 ${wide + 24} ${high + deep + 46}`}
        role="img"
        aria-label={t("overlay.new_over_old", { says })}
      >
        <g transform={`translate(0 ${high})`}>
          <FrontShape size={fresh} low={100} outcome="sound" />
          <rect
            x={0}
            y={-old.height_mm}
            width={old.length_mm}
            height={old.height_mm}
            fill="none"
            stroke="var(--copper)"
            strokeWidth={3.5}
            strokeDasharray="9 6"
          />
        </g>
        <g transform={`translate(0 ${high + 22})`}>
          <TopShape size={fresh} />
          <TopShape size={old} ghost />
        </g>
      </Drawing>
      <Differences>
        {rows.map(([what, before, after]) => (
          <li key={what} data-differs={before !== after}>
            {what}: {lengthText(after, store)}, {signed(after - before, store)}
          </li>
        ))}
      </Differences>
    </>
  );
}
