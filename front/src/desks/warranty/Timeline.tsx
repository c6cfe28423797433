/** The warranty's time drawn to scale: free, pro rata, and today. */
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { dayOf } from "../../kit/words";
import { t } from "../../language/t";

const Drawing = styled.svg`
  display: block;
  width: 100%;
  text {
    font-size: 16px;
    fill: var(--soft);
  }
  .strong {
    fill: var(--ink);
    font-weight: 750;
  }
`;
const WIDE = 640;
const LEFT = 12;

export function Timeline({ answer }: { answer: Schema["Answer"] }) {
  const { counted_from: from, ends_on: ends, free_until: free, months_used: used } = answer;
  const terms = { free_months: answer.free_months ?? 0, pro_rata_months: answer.pro_rata_months ?? 0 };
  if (!from || !ends || !free || used === null) return null;
  const total = Math.max(terms.free_months + terms.pro_rata_months, used + 1);
  const x = (months: number) => LEFT + (WIDE * months) / total;
  const now = x(used);
  /** Words near an end of the line stand inside it. */
  const anchorAt = (at: number) => (at > WIDE * 0.8 ? "end" : at < WIDE * 0.2 ? "start" : "middle");
  const term = terms.free_months + terms.pro_rata_months;
  const anchor = anchorAt(now);
  return (
    <Drawing
      viewBox={`0 0 ${WIDE + LEFT * 2} 118`}
      role="img"
      aria-label={t("timeline.months_used_free_until_ends", { count: used, free: dayOf(free), ends: dayOf(ends) })}
    >
      <rect
        x={x(0)}
        y={44}
        width={x(terms.free_months) - x(0)}
        height={28}
        fill="var(--sound-pale)"
        stroke="var(--sound)"
        strokeWidth={2}
      />
      {terms.pro_rata_months > 0 && (
        <path
          d={`M${x(terms.free_months)} 44 L${x(term)} 71 L${x(term)} 72 L${x(terms.free_months)} 72 Z`}
          fill="var(--doubt-pale)"
          stroke="var(--doubt)"
          strokeWidth={2}
        />
      )}
      <line x1={LEFT} x2={WIDE + LEFT} y1={73} y2={73} stroke="var(--ink)" strokeWidth={2} />
      <text x={x(0) + 8} y={63}>
        {t("timeline.free", { free_months: terms.free_months })}
      </text>
      {terms.pro_rata_months > 0 && (
        <text x={x(terms.free_months + terms.pro_rata_months * 0.28)} y={68} textAnchor="middle">
          {t("timeline.pro_rata", { pro_rata_months: terms.pro_rata_months })}
        </text>
      )}
      <text x={x(0)} y={94}>
        {dayOf(from)}
      </text>
      <text x={x(terms.free_months)} y={94} textAnchor={anchorAt(x(terms.free_months))}>
        {dayOf(free)}
      </text>
      {terms.pro_rata_months > 0 && (
        <text x={x(term)} y={112} textAnchor="end">
          {dayOf(ends)}
        </text>
      )}
      <path d={`M${now} 74 V36 l-9 -14 h18 l-9 14`} fill="var(--copper)" stroke="var(--copper)" strokeWidth={3} />
      <text
        className="strong"
        x={now + (anchor === "start" ? 14 : anchor === "end" ? -14 : 0)}
        y={15}
        textAnchor={anchor}
      >
        {t("timeline.today_months_used", { count: used })}
      </text>
    </Drawing>
  );
}
