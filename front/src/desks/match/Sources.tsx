/** What is asked, in one line; and where the sources differ, who says what, who wins and why. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button } from "../../kit/parts";
import { lengthText } from "../../kit/units";
import { CHEMISTRIES, USES } from "../../kit/words";
import { say, small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";

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
  typed: t("by hand"),
  tape: t("tape"),
  car: t("car's list"),
  code: t("code"),
  label: t("old label"),
  owner: t("owner"),
  check: t("check"),
};

function words(asked: Schema["Requirement"], store: Schema["StoreView"]): string[] {
  const { measured } = asked;
  const mm = (value: number) => lengthText(Math.round(value), store);
  return [
    measured ? t("into {0} × {1} × {2}", mm(measured.length_mm), mm(measured.width_mm), mm(measured.height_mm)) : "",
    asked.min_cca_amps ? t("at least {0} CCA", Math.round(asked.min_cca_amps)) : t("whatever its rating"),
    asked.min_capacity_ah ? t("{0} Ah", Math.round(asked.min_capacity_ah)) : "",
    asked.min_reserve_minutes ? t("{0} min reserve", Math.round(asked.min_reserve_minutes)) : "",
    t("{0} or better", CHEMISTRIES[asked.chemistry ?? "flooded"]),
    asked.stop_start ? t("stop-start") : "",
    asked.vent_tube ? t("vent tube") : "",
    asked.no_agm ? t("no AGM") : "",
    asked.flooded_stays ? t("flooded types alone") : "",
    asked.running_volts ? t("no AGM before its charging is mended ({0} V)", asked.running_volts.toFixed(1)) : "",
    asked.use && asked.use !== "private" ? t("{0} use", small(USES[asked.use])) : "",
  ].filter(Boolean);
}

export function Sources({ found, store }: { found: Schema["MatchView"]; store: Schema["StoreView"] }) {
  const [all, setAll] = useState(false);
  const requirement = found.requirement;
  if (!requirement) return null;
  const differing = found.lines.filter((line) => line.differ);
  const inSight = all ? found.lines : differing;
  const agreed = found.lines.length - differing.length;
  return (
    <Stack $gap={7} as="section" aria-label={t("What is asked")}>
      <Asks>
        <b>{requirement.group_code || t("By the tape")}</b>, {words(requirement, store).join(", ")}
      </Asks>
      {inSight.length > 0 && (
        <Rows>
          {inSight.map((line) => (
            <div key={line.about} data-line={line.about}>
              <dt>{say(line.about)}</dt>
              <dd>
                {Object.entries(line.says).map(([key, said]) => (
                  <span key={key}>
                    <small>{SOURCES[key as Schema["SourceKey"]]}</small>{" "}
                    {key === line.wins && line.differ ? <b>● {said}</b> : said}
                    {key === line.strictest && key !== line.wins && <small> {t("(stricter)")}</small>}
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
              ? t("Only where they differ")
              : differing.length
                ? t("{0} more on which all agree", agreed)
                : t("All sources agree: who says what")}
          </Button>
        </div>
      )}
    </Stack>
  );
}
