/** The vane from above: stations stand round the mast like landmarks, evidence lies as feathers on the tail, the arrow judges. */
import styled from "styled-components";
import type { Schema } from "../api/client";
import { OUTCOMES } from "../kit/words";
import { at, CENTRE, feathersOf, placeOf, reasonsOf, towards, VIEW, wedgeOf, type Feather } from "./geometry";
import { Mark, TONES, toneOf, type Outcome } from "./outcomes";
import { t } from "../language/t";

const Drawing = styled.svg`
  display: block;
  width: 100%;
  height: 100%;
  min-height: 0;
  overflow: visible; /* a word at its edge stands in the margin */
  text {
    font-size: 18px;
    fill: var(--soft);
  }
  .now {
    font-weight: 780;
    font-size: 19px;
  }
  .number {
    font-size: 17px;
    font-weight: 780;
  }
  .turns {
    transition: transform 180ms ease-out;
    transform-origin: ${CENTRE.x}px ${CENTRE.y}px;
  }
  .feather {
    cursor: pointer;
  }
`;

const ARM = 30;
const SHAFT = 66;

interface Props {
  judgement: Schema["Judgement"];
  chosen: number | null;
  onChoose: (index: number | null) => void;
}

export function Vane({ judgement, chosen, onChoose }: Props) {
  const turned = { transform: `rotate(${-towards(judgement.outcome)}deg)` };
  const tone = toneOf(judgement.outcome);
  const feathers = feathersOf(reasonsOf(judgement).shown);
  const holds = judgement.outcome === "sound" && (judgement.jobs ?? []).some((job) => job.holds);
  const says = t("vane.the_vane_points_to_on_pieces_of_evidence", {
    outcome: OUTCOMES[judgement.outcome],
    t: holds ? t("vane.after_its_jobs") : "",
    sureness: judgement.sureness,
    count: feathers.length,
  });
  return (
    <Drawing viewBox={`0 0 ${VIEW.width} ${VIEW.height}`} role="img" aria-label={says} data-outcome={judgement.outcome}>
      <path
        d={`M${CENTRE.x - ARM} ${CENTRE.y} H${CENTRE.x + ARM} M${CENTRE.x} ${CENTRE.y - ARM} V${CENTRE.y + ARM}`}
        stroke="var(--line)"
        strokeWidth={5}
        strokeLinecap="round"
      />
      <g className="turns" style={turned}>
        <path d={pennant(wedgeOf(judgement.confidence))} fill={tone.ink} opacity={0.2} />
      </g>
      {(Object.keys(TONES) as Outcome[]).map((outcome) => (
        <Station key={outcome} outcome={outcome} now={outcome === judgement.outcome} holds={holds} />
      ))}
      {feathers.map((feather) => (
        <FeatherShape
          key={feather.index}
          feather={feather}
          chosen={feather.index === chosen}
          onChoose={() => onChoose(feather.index === chosen ? null : feather.index)}
        />
      ))}
      <g className="turns" style={turned}>
        <path
          d={`M${CENTRE.x - 16} ${CENTRE.y} H${CENTRE.x + SHAFT - 18}`}
          stroke="var(--ink)"
          strokeWidth={6.5}
          strokeLinecap="round"
        />
        <path
          d={`M${CENTRE.x + SHAFT + 10} ${CENTRE.y} l-38 -14 q9 14 0 28 Z`}
          fill="var(--ink)"
          stroke="var(--ink)"
          strokeWidth={2}
          strokeLinejoin="round"
        />
      </g>
      <circle cx={CENTRE.x} cy={CENTRE.y} r={10} fill="var(--ground)" stroke="var(--ink)" strokeWidth={5} />
    </Drawing>
  );
}

function Station({ outcome, now, holds }: { outcome: Outcome; now: boolean; holds: boolean }) {
  const { x, y, label } = placeOf(outcome);
  return (
    <g data-station={outcome}>
      <Mark outcome={outcome} x={x} y={y} size={now ? 12 : 8} />
      <text
        className={now ? "now" : undefined}
        x={label.x}
        y={label.y}
        textAnchor={label.anchor}
        style={now ? { fill: toneOf(outcome).ink } : undefined}
      >
        {OUTCOMES[outcome]}
        {now && holds && (
          <tspan x={label.x} dy="1.15em">
            {` ${t("vane.after_jobs")}`}
          </tspan>
        )}
      </text>
    </g>
  );
}

/** The outline of a feather lying along the x axis. */
export function featherPath(length: number, from = 14) {
  const wide = 8 + length * 0.09;
  const shape = `M${from} 0 C${from + length * 0.22} ${-wide} ${length * 0.72} ${-wide} ${length} 0 C${length * 0.72} ${wide} ${from + length * 0.22} ${wide} ${from} 0 Z`;
  const barbs = [0.42, 0.56, 0.7]
    .map(
      (share) => `M${length * share} 0 l${wide * 0.6} ${-wide * 0.5} M${length * share} 0 l${wide * 0.6} ${wide * 0.5}`,
    )
    .join("");
  return { shape, barbs: `M${from} 0 H${length}${barbs}` };
}

/** How a feather is drawn: what speaks clearly is filled, what is doubtful is a broken outline. */
export function featherTone(finding: Schema["Finding"]) {
  const doubtful = finding.status === "doubtful";
  const tone = toneOf(finding.points_to);
  return {
    fill: doubtful ? "var(--ground)" : tone.pale,
    stroke: doubtful ? "var(--doubt)" : tone.ink,
    ...(doubtful ? { strokeDasharray: "5 3" } : {}),
  };
}

function FeatherShape({ feather, chosen, onChoose }: { feather: Feather; chosen: boolean; onChoose: () => void }) {
  const { finding, angle, length, number } = feather;
  const { shape, barbs } = featherPath(length);
  const tone = featherTone(finding);
  const tip = at(angle, length + 13);
  return (
    <g className="feather" onClick={onChoose} data-kind={finding.kind} data-points-to={finding.points_to}>
      <g transform={`translate(${CENTRE.x} ${CENTRE.y}) rotate(${-angle})`}>
        <path d={`M14 0 H${length + 20}`} stroke="transparent" strokeWidth={44} />
        <path d={shape} {...tone} strokeWidth={chosen ? 4 : 2} />
        <path d={barbs} stroke={tone.stroke} strokeWidth={1.2} fill="none" />
      </g>
      <text className="number" x={tip.x} y={tip.y + 6} textAnchor="middle" style={{ fill: tone.stroke }}>
        {number}
      </text>
    </g>
  );
}

/** The wedge lying along angle 0, as a pennant; the group around it turns. */
function pennant(half: number): string {
  const reach = SHAFT + 8;
  const width = Math.tan((half * Math.PI) / 180) * reach;
  return `M${CENTRE.x} ${CENTRE.y} L${CENTRE.x + reach} ${CENTRE.y - width} L${CENTRE.x + reach - 14} ${CENTRE.y} L${CENTRE.x + reach} ${CENTRE.y + width} Z`;
}
