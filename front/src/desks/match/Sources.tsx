/** What is asked, in one line; and where the sources differ, who says what, who wins and why. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button } from "../../kit/parts";
import { lengthText } from "../../kit/units";
import { CHEMISTRIES, USES } from "../../kit/words";
import { small, localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";
import { wordOf } from "../../language/speak";

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
    grid-template-columns: 108px minmax(0, 1fr);
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
  typed: t("screens.by_hand"),
  tape: t("sources.tape"),
  car: t("sources.cars_list"),
  code: t("sources.code"),
  label: t("sources.old_label"),
  owner: t("screens.owner"),
  check: t("screens.check"),
};

function words(asked: Schema["Requirement"], store: Schema["StoreView"]): string[] {
  const { measured } = asked;
  const mm = (value: number) => lengthText(Math.round(value), store);
  return [
    measured
      ? t("sources.into", {
          length_mm: mm(measured.length_mm),
          width_mm: mm(measured.width_mm),
          height_mm: mm(measured.height_mm),
        })
      : "",
    asked.min_cca_amps
      ? t("sources.at_least_cca", { min_cca_amps: Math.round(asked.min_cca_amps) })
      : t("sources.whatever_its_rating"),
    asked.min_capacity_ah ? t("screens.ah_2", { min_capacity_ah: Math.round(asked.min_capacity_ah) }) : "",
    asked.min_reserve_minutes
      ? t("sources.min_reserve", { min_reserve_minutes: Math.round(asked.min_reserve_minutes) })
      : "",
    t("sources.or_better", { chemistry: CHEMISTRIES[asked.chemistry ?? "flooded"] }),
    asked.stop_start ? t("sources.stop_start") : "",
    asked.vent_tube ? t("screens.vent_tube_2") : "",
    asked.no_agm ? t("screens.no_agm") : "",
    asked.flooded_stays ? t("sources.flooded_types_alone") : "",
    asked.running_volts
      ? t("sources.no_agm_before_its_charging_is_mended_v", {
          running_volts: localFigure(asked.running_volts.toFixed(1)),
        })
      : "",
    asked.use && asked.use !== "private" ? t("sources.use", { use: small(USES[asked.use]) }) : "",
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
    <Stack $gap={7} as="section" aria-label={t("sources.what_is_asked")}>
      <Asks>
        <b>{requirement.group_code || t("sources.by_the_tape")}</b>, {words(requirement, store).join(", ")}
      </Asks>
      {inSight.length > 0 && (
        <Rows>
          {inSight.map((line) => (
            <div key={line.about} data-line={line.about}>
              <dt>{wordOf(line.about)}</dt>
              <dd>
                {Object.entries(line.says).map(([key, said]) => (
                  <span key={key}>
                    <small>{SOURCES[key as Schema["SourceKey"]]}</small>{" "}
                    {key === line.wins && line.differ ? <b>● {said}</b> : said}
                    {key === line.strictest && key !== line.wins && <small> {t("sources.stricter")}</small>}
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
              ? t("sources.only_where_they_differ")
              : differing.length
                ? t("sources.more_on_which_all_agree", { count: agreed })
                : t("sources.all_sources_agree_who_says_what")}
          </Button>
        </div>
      )}
    </Stack>
  );
}
