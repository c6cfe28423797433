/** The judgement: the vane, its words, the reasons one can touch, and the one next step. */
import { useQuery } from "@tanstack/react-query";
import { Button as AriaButton } from "react-aria-components";
import { memo, useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { Caution } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import { dayOf } from "../../kit/words";
import { InlineMark, toneOf } from "../../vane/outcomes";
import { Vane } from "../../vane/Vane";
import { Actions } from "./Actions";

/** Where a step's caution stands when its rung is not open beside it. */
const CAUTION_OF: Partial<Record<Schema["StepKey"], string>> = {
  load_again: "load_test",
  top_up: "cells",
  equalise: "charge_and_retest",
  stop_charge: "charge_run",
};

const Panel = styled.section`
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  gap: 6px;
  padding: 6px 16px 12px;
  min-height: 0;
  border-left: 1px solid var(--line);
`;
const Headline = styled.div`
  h2 {
    display: inline;
    font-size: 25px;
    line-height: 1.1;
    font-weight: 780;
  }
  span {
    color: var(--soft);
  }
`;
const Reasons = styled.ul`
  overflow: auto;
  min-height: 0;
  display: grid;
  align-content: start;
  gap: 1px;
`;
const Reason = styled(AriaButton)`
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 8px;
  width: 100%;
  padding: 6px 6px;
  text-align: left;
  min-height: 44px;
  align-items: center;
  background: none;
  border: none;
  border-radius: 6px;
  cursor: pointer;
  line-height: 1.25;
  font-size: 15px;
  &[data-hovered],
  &[aria-expanded="true"] {
    background: var(--shelf);
  }
  s {
    color: var(--soft);
  }
`;
const Detail = styled.dl`
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 2px 10px;
  padding: 2px 6px 10px 34px;
  font-size: 14px;
  background: var(--shelf);
  border-radius: 0 0 6px 6px;
  dt {
    color: var(--soft);
  }
`;
const Next = styled.div`
  background: var(--ink);
  color: var(--on-ink);
  border-radius: 10px;
  padding: 10px 14px;
  display: grid;
  gap: 3px;
  b {
    font-size: 18px;
    line-height: 1.2;
  }
  small {
    font-size: 14px;
    opacity: 0.85;
    line-height: 1.25;
  }
`;
const Beside = styled.p`
  color: var(--copper);
  font-weight: 600;
  font-size: 15px;
  line-height: 1.25;
`;
const Foot = styled.div`
  display: grid;
  gap: 7px;
`;

interface Props {
  judgement: Schema["Judgement"];
  store: Schema["StoreView"];
  view: Schema["CheckView"];
}

export const VerdictPanel = memo(function VerdictPanel({ judgement, store, view }: Props) {
  const [chosen, setChosen] = useState<number | null>(null);
  const { data: known } = useQuery(reference);
  const step = judgement.next_step;
  const cautions = known?.cautions[CAUTION_OF[step.key] ?? step.key] ?? [];
  return (
    <Panel aria-label="Judgement">
      <Vane judgement={judgement} chosen={chosen} onChoose={setChosen} />
      <Headline aria-live="polite">
        <h2 style={{ color: toneOf(judgement.outcome).ink }} data-testid="headline">
          {judgement.headline}
        </h2>{" "}
        <span data-testid="sureness">· {judgement.sureness}</span>
        <small style={{ color: "var(--soft)", fontSize: 14, display: "block" }}>
          {judgement.state_of_charge ? `charge by ${judgement.state_of_charge.rules_by ?? "volts"} · ` : ""}house rules{" "}
          {judgement.rules_version}
        </small>
        {judgement.watch_until && <span>test again {dayOf(judgement.watch_until)}</span>}
      </Headline>
      <Reasons aria-label="Reasons">
        {inOrder(judgement).map(([finding, index]) => (
          <li key={index}>
            <Reason aria-expanded={chosen === index} onPress={() => setChosen(chosen === index ? null : index)}>
              <ReasonMark finding={finding} />
              {finding.status === "dropped" ? (
                <span>
                  <s>{finding.reading_text}</s> fell off: {finding.why_not}
                </span>
              ) : (
                <span>{finding.text}</span>
              )}
            </Reason>
            {chosen === index && (
              <Why finding={finding} version={`${judgement.rules_version}, ${judgement.rules_name}`} />
            )}
          </li>
        ))}
        {judgement.findings.length === 0 && <li style={{ color: "var(--soft)", padding: 6 }}>Nothing was read yet.</li>}
      </Reasons>
      <Foot>
        {judgement.look_at_the_car_why && <Beside>Look at the car too. {judgement.look_at_the_car_why}.</Beside>}
        <Next>
          <b data-testid="next-step">{step.text}</b>
          <small>
            {step.why}. Needs {step.needs}; {minutesWords(step.minutes)}.
            {step.load &&
              ` Limit for ${Math.round(shownTemperature(step.load.temperature_c, store))} ${temperatureUnit(store)}${step.load.temperature_measured ? "" : ", none was taken"}.`}
          </small>
        </Next>
        {cautions.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
        <Actions view={view} />
      </Foot>
    </Panel>
  );
});

/** What the judgement rests on first, the heaviest before the others; what fell off last. */
function inOrder({ findings, outcome }: Schema["Judgement"]) {
  const rank = (finding: Schema["Finding"]) =>
    finding.weight + (finding.points_to === outcome ? 1 : 0) - (finding.status === "dropped" ? 1 : 0);
  return findings.map((finding, index) => [finding, index] as const).sort(([one], [other]) => rank(other) - rank(one));
}

const minutesWords = (minutes: number) => (minutes < 60 ? `${minutes} min` : `about ${Math.round(minutes / 60)} h`);

function ReasonMark({ finding }: { finding: Schema["Finding"] }) {
  if (finding.points_to && finding.status === "counts") return <InlineMark outcome={finding.points_to} />;
  if (finding.status === "doubtful")
    return (
      <svg width="16" height="16" viewBox="0 0 16 16" role="img" aria-label="doubtful">
        <rect
          x="1.5"
          y="1.5"
          width="13"
          height="13"
          fill="none"
          stroke="var(--doubt)"
          strokeWidth="2"
          strokeDasharray="3 2"
        />
      </svg>
    );
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
      <circle cx="8" cy="8" r="3" fill="var(--soft)" />
    </svg>
  );
}

function Why({ finding, version }: { finding: Schema["Finding"]; version: string }) {
  return (
    <Detail>
      <dt>read</dt>
      <dd>{finding.reading_text}</dd>
      <dt>held against</dt>
      <dd>{finding.limit_text}</dd>
      <dt>rule</dt>
      <dd>
        {finding.rule.replaceAll("_", " ")}, house rules {version}
      </dd>
      <dt>source</dt>
      <dd>
        {finding.source} ({finding.standing})
      </dd>
      <dt>weight</dt>
      <dd>{finding.status === "dropped" ? "none" : `${Math.round(finding.weight * 100)} of 100, ${finding.status}`}</dd>
    </Detail>
  );
}
