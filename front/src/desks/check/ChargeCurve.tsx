/** The charge of one battery: what to set, and the amps as they went beside the amps as they should go. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Soft } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import type { Values } from "./fields";
import { volts, whole } from "./said";
import { More } from "./TickList";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

type Plan = Schema["ChargePlan"];

const hoursWords = (hours: number) => `${localFigure(hours.toFixed(hours < 10 ? 1 : 0))} h`;

const Refused = styled.strong`
  color: var(--failed);
`;
const Notes = styled.ul`
  display: grid;
  gap: 2px;
  font-size: 16px;
  line-height: 1.3;
  color: var(--soft);
`;

/** What the charger is set to; what forbids the charge before it, what matters besides after it. */
export function PlanLines({ limits, complaint }: { limits: Schema["Limits"]; complaint: Schema["Complaint"] }) {
  const { plan, keeping, charge_reaches_volts: reaches } = limits;
  const [isOpen, setOpen] = useState(false);
  if (!plan) return <>{t("charge_curve.no_ah_reserve_or_cca_on_record_correct_the")}</>;
  const more = [plan.why, ...plan.notes, ...(complaint === "stood_for_weeks" && keeping ? [keeping.words] : [])];
  return (
    <>
      {plan.refused && (
        <Refused>{t("charge_curve.not_now", { why: plan.refused.why, first: plan.refused.first })} </Refused>
      )}
      {t("screens.set")} <b>{plan.words}</b>{" "}
      <Soft>
        {t("charge_curve.amps_should_fall_volts_come_up_to")} {volts(reaches, 1)}
        {t("charge_curve.amps_that_stay_for_hours_below_it_mark_a")}
      </Soft>{" "}
      {!isOpen && <More count={more.length} onPress={() => setOpen(true)} />}
      {isOpen && (
        <Notes>
          {more.map((note) => (
            <li key={note}>{`${note.charAt(0).toUpperCase()}${note.slice(1)}`}.</li>
          ))}
        </Notes>
      )}
    </>
  );
}

const Figure = styled.figure`
  width: 100%;
  display: grid;
  gap: 2px;
  figcaption {
    font-size: 16px;
    color: var(--soft);
  }
  svg {
    width: 100%;
    height: 104px;
    display: block;
  }
`;
const WIDE = 600;
const HIGH = 100;

type Moment = Schema["Moment"];

/** What was read at the charger: the start, the moments noted, and now. */
export function momentsOf(values: Values): Moment[] {
  const number = (name: string) => numberOf(String(values[name] ?? ""));
  const [start, now, hours] = [number("start_amps"), number("amps"), number("hours")];
  const log = Array.isArray(values["log"]) ? values["log"] : [];
  const noted = log.map((point): Moment => {
    const [minutes = 0, amps = 0] = point.split(" ").map(Number);
    return { hours: minutes / 60, amps };
  });
  if (start !== null) noted.push({ hours: 0, amps: start });
  if (now !== null && hours !== null) noted.push({ hours, amps: now });
  return noted.toSorted((one, other) => one.hours - other.hours);
}

interface Props {
  plan: Plan | null;
  values: Values;
  ah: number | null | undefined;
  /** Ah that went in, as the core reckons them. */
  put: number | undefined;
}

export function ChargeCurve({ plan, values, ah, put }: Props) {
  const moments = momentsOf(values);
  const last = moments.at(-1);
  const log = values["log"];
  if (!plan || !last || moments.length < 2 || !Array.isArray(log) || log.length === 0) return null;
  const end = Math.max(plan.hours_high, last.hours);
  const most = Math.max(plan.amps, ...moments.map((moment) => moment.amps)) * 1.12;
  const path = (points: Moment[]) =>
    points
      .map(({ hours, amps }) => `${((hours / end) * WIDE).toFixed(1)},${(HIGH - (amps / most) * HIGH).toFixed(1)}`)
      .join(" ");
  const label = t("charge_curve.over", {
    amps: put === undefined ? t("screens.on_charge") : t("charge_curve.ah_in", { put: localFigure(put.toFixed(0)) }),
    hours: hoursWords(last.hours),
    volts: ah ? t("charge_curve.of_ah_on_its_label", { ah }) : "",
  });
  return (
    <Figure data-testid="charge-curve">
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={t("charge_curve.amps_over_time", { label })}
      >
        <line
          x1="0"
          x2={WIDE}
          y1={HIGH}
          y2={HIGH}
          stroke="var(--line)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
        <polyline
          points={path(plan.expected)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth="2"
          strokeDasharray="3 6"
          vectorEffect="non-scaling-stroke"
        />
        <polyline
          points={path(moments)}
          fill="none"
          stroke="var(--copper)"
          strokeWidth="4"
          strokeLinejoin="round"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption>
        {t("charge_curve.dashed_as_it_should_go", { label })} {whole(plan.amps, "A")}{" "}
        {t("charge_curve.until_about_then_falling", { hours: hoursWords(plan.expected[1]?.hours ?? 0) })}
      </figcaption>
    </Figure>
  );
}
