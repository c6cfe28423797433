/** What is asked, in one line; and where the sources differ, who says what, who wins and why. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button } from "../../kit/parts";
import { shownLength } from "../../kit/units";
import { CHEMISTRIES, USES } from "../../kit/words";

const Asks = styled.p`
  font-size: 18px;
  line-height: 1.25;
  b {
    font-weight: 750;
  }
`;
const Rows = styled.dl`
  display: grid;
  gap: 5px;
  font-size: 16px;
  line-height: 1.25;
  & > div {
    display: grid;
    grid-template-columns: 84px minmax(0, 1fr);
    gap: 2px 10px;
    padding-bottom: 5px;
    border-bottom: 1px solid var(--line);
  }
  dt {
    color: var(--soft);
  }
  span {
    display: inline-block;
    margin-right: 12px;
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
  em {
    display: block;
    font-style: normal;
    color: var(--copper);
  }
`;

export const SOURCES: Record<Schema["SourceKey"], string> = {
  typed: "by hand",
  tape: "tape",
  car: "car's list",
  code: "code",
  label: "old label",
  owner: "owner",
  check: "check",
};

function words(asked: Schema["Requirement"], store: Schema["StoreView"]): string[] {
  const { measured } = asked;
  const mm = (value: number) => shownLength(Math.round(value), store);
  return [
    measured ? `into ${mm(measured.length_mm)} × ${mm(measured.width_mm)} × ${mm(measured.height_mm)}` : "",
    asked.min_cca_amps ? `at least ${Math.round(asked.min_cca_amps)} CCA` : "whatever its rating",
    asked.min_capacity_ah ? `${Math.round(asked.min_capacity_ah)} Ah` : "",
    asked.min_reserve_minutes ? `${Math.round(asked.min_reserve_minutes)} min reserve` : "",
    `${CHEMISTRIES[asked.chemistry ?? "flooded"]} or better`,
    asked.stop_start ? "stop-start" : "",
    asked.vent_tube ? "vent tube" : "",
    asked.no_agm ? "no AGM" : "",
    asked.flooded_stays ? "flooded types alone" : "",
    asked.running_volts ? `no AGM before its charging is mended (${asked.running_volts.toFixed(1)} V)` : "",
    asked.use && asked.use !== "private" ? `${USES[asked.use].toLowerCase()} use` : "",
  ].filter(Boolean);
}

export function Sources({ found, store }: { found: Schema["MatchView"]; store: Schema["StoreView"] }) {
  const [all, setAll] = useState(false);
  const asked = found.requirement;
  if (!asked) return null;
  const differing = found.lines.filter((line) => line.differ);
  const shown = all ? found.lines : differing;
  const agreed = found.lines.length - differing.length;
  return (
    <section aria-label="What is asked" style={{ display: "grid", gap: 7 }}>
      <Asks>
        <b>{asked.group_code || "By the tape"}</b>, {words(asked, store).join(", ")}
      </Asks>
      {shown.length > 0 && (
        <Rows>
          {shown.map((line) => (
            <div key={line.about} data-line={line.about}>
              <dt>{line.about}</dt>
              <dd>
                {Object.entries(line.says).map(([key, said]) => (
                  <span key={key}>
                    <small>{SOURCES[key as Schema["SourceKey"]]}</small>{" "}
                    {key === line.wins && line.differ ? <b>● {said}</b> : said}
                    {key === line.strictest && key !== line.wins && <small> (stricter)</small>}
                  </span>
                ))}
                {line.why && <em>{line.why}</em>}
              </dd>
            </div>
          ))}
        </Rows>
      )}
      {(agreed > 0 || all) && found.lines.length > 0 && (
        <div>
          <Button onPress={() => setAll(!all)}>
            {all
              ? "Only where they differ"
              : differing.length
                ? `${agreed} more on which all agree`
                : "All sources agree: who says what"}
          </Button>
        </div>
      )}
    </section>
  );
}
