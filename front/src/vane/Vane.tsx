/** The vane: outcomes stand around it, evidence lies as feathers on its tail, the arrow is the present judgement. */
import styled from "styled-components";
import type { Schema } from "../api/client";
import { OUTCOMES } from "../kit/words";
import { at, CENTRE, feathersOf, RADIUS, STATIONS, wedgeOf, type Feather } from "./geometry";
import { Mark, toneOf, type Outcome } from "./outcomes";

const Drawing = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  text {
    font-size: 13.5px;
    fill: var(--soft);
  }
  .now {
    font-weight: 750;
    font-size: 15px;
  }
  .turns {
    transition: transform 180ms ease-out;
    transform-origin: ${CENTRE.x}px ${CENTRE.y}px;
  }
  .feather {
    cursor: pointer;
  }
`;

interface Props {
  judgement: Schema["Judgement"];
  chosen: number | null;
  onChoose: (index: number | null) => void;
}

export function Vane({ judgement, chosen, onChoose }: Props) {
  const angle = STATIONS[judgement.outcome];
  const tone = toneOf(judgement.outcome);
  const half = wedgeOf(judgement.confidence);
  const feathers = feathersOf(judgement.findings);
  const says = `The vane points to ${OUTCOMES[judgement.outcome]}, ${judgement.sureness}, on ${feathers.length} pieces of evidence.`;
  return (
    <Drawing viewBox="0 0 430 253" role="img" aria-label={says} data-outcome={judgement.outcome}>
      <path d={arc(-16, 207)} fill="none" stroke="var(--line)" strokeWidth={1.5} />
      <g className="turns" style={{ transform: `rotate(${-angle}deg)` }}>
        <path d={wedge(half)} fill={tone.ink} opacity={0.16} />
      </g>
      {(Object.keys(STATIONS) as Outcome[]).map((outcome) => (
        <Station key={outcome} outcome={outcome} now={outcome === judgement.outcome} />
      ))}
      {feathers.map((feather) => (
        <FeatherShape
          key={judgement.findings.indexOf(feather.finding)}
          feather={feather}
          chosen={judgement.findings.indexOf(feather.finding) === chosen}
          onChoose={() => {
            const index = judgement.findings.indexOf(feather.finding);
            onChoose(index === chosen ? null : index);
          }}
        />
      ))}
      <g className="turns" style={{ transform: `rotate(${-angle}deg)` }}>
        <path
          d={`M${CENTRE.x - 26} ${CENTRE.y} H${CENTRE.x + RADIUS - 34}`}
          stroke="var(--ink)"
          strokeWidth={5}
          strokeLinecap="round"
        />
        <path
          d={`M${CENTRE.x + RADIUS - 12} ${CENTRE.y} l-34 -12 l9 12 l-9 12 Z`}
          fill="var(--ink)"
          stroke="var(--ink)"
          strokeWidth={1.5}
          strokeLinejoin="round"
        />
      </g>
      <circle cx={CENTRE.x} cy={CENTRE.y} r={8.5} fill="var(--ground)" stroke="var(--ink)" strokeWidth={4} />
    </Drawing>
  );
}

function Station({ outcome, now }: { outcome: Outcome; now: boolean }) {
  const angle = STATIONS[outcome];
  const spot = at(angle, RADIUS);
  const label = at(angle, RADIUS + (angle > 60 && angle < 125 ? 20 : 17));
  const anchor = angle > 76 && angle < 104 ? "middle" : angle < 90 ? "start" : "end";
  return (
    <g>
      <Mark outcome={outcome} x={spot.x} y={spot.y} size={now ? 10 : 7} />
      <text
        className={now ? "now" : undefined}
        x={label.x}
        y={label.y + (angle > 76 && angle < 104 ? -2 : 5)}
        textAnchor={anchor}
        style={now ? { fill: toneOf(outcome).ink } : undefined}
      >
        {OUTCOMES[outcome]}
      </text>
    </g>
  );
}

function FeatherShape({ feather, chosen, onChoose }: { feather: Feather; chosen: boolean; onChoose: () => void }) {
  const { finding, angle, length } = feather;
  const doubtful = finding.status === "doubtful";
  const tone = toneOf(finding.points_to);
  const lean = Math.cos((angle * Math.PI) / 180);
  const words = finding.reading_text.length > 20 ? `${finding.reading_text.slice(0, 19)}…` : finding.reading_text;
  const level = Math.abs(Math.sin((angle * Math.PI) / 180)) < 0.42;
  const short = length < 76;
  const side = lean > 0 ? 1 : -1;
  const tip = level ? { x: CENTRE.x + side * 40, y: CENTRE.y + 38 + 17 * feather.place } : at(angle, length + 14);
  const anchor = level || Math.abs(lean) > 0.35 ? (lean > 0 ? "start" : "end") : "middle";
  const wide = 9 + length * 0.06;
  const from = 14;
  const shape = `M${from} 0 Q${length * 0.35} ${-wide} ${length * 0.8} ${-wide * 0.85} L${length} 0 L${length * 0.8} ${wide * 0.85} Q${length * 0.35} ${wide} ${from} 0 Z`;
  const barbs = [0.4, 0.55, 0.7].map(
    (share) => `M${length * share} 0 l${wide * 0.7} ${-wide * 0.55} M${length * share} 0 l${wide * 0.7} ${wide * 0.55}`,
  );
  return (
    <g className="feather" onClick={onChoose} data-kind={finding.kind} data-points-to={finding.points_to}>
      <g transform={`translate(${CENTRE.x} ${CENTRE.y}) rotate(${-angle})`}>
        <path
          d={shape}
          fill={doubtful ? "var(--ground)" : tone.pale}
          stroke={doubtful ? "var(--doubt)" : tone.ink}
          strokeWidth={chosen ? 3.5 : 1.8}
          strokeDasharray={doubtful ? "5 3" : undefined}
        />
        <path
          d={`M${from} 0 H${length}${barbs.join("")}`}
          stroke={doubtful ? "var(--doubt)" : tone.ink}
          strokeWidth={1.2}
          fill="none"
        />
      </g>
      {!(short && feather.crowded) && (
        <text
          x={tip.x}
          y={tip.y + 5}
          textAnchor={anchor}
          style={{ fill: "var(--ink)", fontWeight: chosen ? 700 : 500 }}
        >
          {words}
        </text>
      )}
    </g>
  );
}

function arc(from: number, to: number): string {
  const start = at(from, RADIUS);
  const end = at(to, RADIUS);
  return `M${start.x} ${start.y} A${RADIUS} ${RADIUS} 0 1 0 ${end.x} ${end.y}`;
}

/** The wedge lying along angle 0; the group around it turns. */
function wedge(half: number): string {
  const one = at(half, RADIUS - 8);
  const other = at(-half, RADIUS - 8);
  return `M${CENTRE.x} ${CENTRE.y} L${one.x} ${one.y} A${RADIUS - 8} ${RADIUS - 8} 0 0 1 ${other.x} ${other.y} Z`;
}
