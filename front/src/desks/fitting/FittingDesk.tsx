/** Fitting: the list for this car and this battery, ticked off as it is done; what is read is the new battery's baseline. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton, Link } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, type Schema } from "../../api/client";
import { askAgain } from "../../api/live";
import { reference, sale } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { Caution, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { UPRIGHT } from "../../kit/theme";
import { dayOf, money, timeOf } from "../../kit/words";
import { useWrite } from "../goods/useWrite";
import { Box, Reading, Till, UNITS } from "./parts";
import { TakeBack } from "./TakeBack";
import { linkTo } from "../../api/link";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import { Fault } from "../../kit/formParts";

const BatteryName = styled.h2`
  font-size: 24px;
  color: var(--ink);
  margin: 0;
`;
const Links = styled.div`
  display: flex;
  gap: 16px;
  flex-wrap: wrap;
`;

const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  ${UPRIGHT} {
    display: block;
    overflow: auto;
  }
`;
const Column = styled.section`
  position: relative;
  padding: 14px 20px;
  overflow: auto;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 24px;
  }
  h2 {
    font-size: 17px;
    margin-top: 4px;
    color: var(--soft);
  }
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
`;
const Step = styled(AriaButton)`
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 3px 6px;
  border: none;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  font-size: 17px;
  line-height: 1.22;
  cursor: pointer;
  &[data-next] {
    box-shadow: inset 4px 0 0 var(--copper);
    background: var(--sheet);
  }
  &[aria-pressed="true"] {
    color: var(--soft);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
`;
const Facts = styled.dl`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 5px 14px;
  font-size: 16px;
  line-height: 1.28;
  dt {
    color: var(--soft);
  }
`;
const Go = styled(Link)`
  ${touchLink}
`;

const PARTS: Record<Schema["FittingStep"]["about"], string> = {
  before: t("screens.before"),
  out: t("fitting_desk.the_old_one_out"),
  in: t("fitting_desk.the_new_one_in"),
  after: t("fitting_desk.afterwards"),
};
export function FittingDesk({ tag }: { tag: number }) {
  const { data: found, error } = useQuery(sale(tag));
  const { data: known } = useQuery(reference);
  const [asks, setAsks] = useState<string | null>(null);
  const tick = useWrite(
    (body: Schema["Tick"], name) =>
      answerOf(api.POST("/api/batteries/{tag}/sale/ticks", { params: { ...name, path: { tag } }, body })),
    () => {
      setAsks(null);
      void askAgain(["battery", tag], ["life", tag], ["shelf"]);
    },
  );
  if (error && !found)
    return (
      <Page>
        <Empty>
          <h1>
            {error instanceof ApiProblem && error.status === 404
              ? t("fitting_desk.was_not_sold_from_this_stock", { tag })
              : error.message}
          </h1>
          <p>
            {t("fitting_desk.a_battery_handed_over_on_the")} <Go href="/match">{t("fitting_desk.match_desk")}</Go>{" "}
            {t("fitting_desk.has_its_fitting_list_here")}
          </p>
        </Empty>
      </Page>
    );
  if (!found) return <Outline />;
  const next = found.way_back ? undefined : found.steps.find((one) => !one.done)?.step.key;
  return (
    <Columns>
      <Column aria-label={t("fitting_desk.the_list")}>
        <h1>
          {found.way_back
            ? t("fitting_desk.taken_back_nothing_to_fit", { tag })
            : t("fitting_desk.fitting", {
                tag,
                t:
                  found.left === 0
                    ? t("fitting_desk.all_is_done")
                    : t("fitting_desk.of_left", { left: found.left, count: found.steps.length }),
              })}
        </h1>
        {(Object.keys(PARTS) as Schema["FittingStep"]["about"][]).map((part) => {
          // of one that was taken back stands what was done, no more
          const steps = found.steps.filter((one) => one.step.about === part && (!found.way_back || one.done));
          if (steps.length === 0) return null;
          return (
            <div key={part} role="group" aria-label={PARTS[part]}>
              <h2>{PARTS[part]}</h2>
              {steps.map((one) => (
                <div key={one.step.key} data-step={one.step.key}>
                  <Step
                    isDisabled={found.way_back !== null}
                    aria-pressed={one.done}
                    {...(one.step.key === next ? { "data-next": true } : {})}
                    onPress={() => {
                      if (!one.done && one.step.figure) setAsks(asks === one.step.key ? null : one.step.key);
                      else tick.write({ step: one.step.key, done: !one.done });
                    }}
                  >
                    <Box done={one.done} />
                    <span>{one.step.text}</span>
                    <small>
                      {one.figure !== null && `${localFigure(one.figure)} ${UNITS[one.step.figure]} · `}
                      {one.done && one.at ? `${one.who}, ${timeOf(one.at)}` : ""}
                    </small>
                  </Step>
                  {asks === one.step.key && (
                    <Reading
                      one={one}
                      fault={tick.of("figure") ?? tick.beside("figure")}
                      onKeep={(figure) => tick.write({ step: one.step.key, done: true, figure })}
                    />
                  )}
                </div>
              ))}
            </div>
          );
        })}
        {tick.beside("figure") && !asks && <Fault role="alert">{tick.beside("figure")}</Fault>}
      </Column>
      <Column aria-label={t("fitting_desk.the_sale")}>
        <BatteryName>{found.name}</BatteryName>
        <Facts>
          <dt>{t("screens.serial")}</dt>
          <dd>{found.serial}</dd>
          <dt>{t("fitting_desk.handed_over")}</dt>
          <dd>
            {t("fitting_desk.at_v", {
              day: dayOf(found.sold_at),
              time: timeOf(found.sold_at),
              volts: localFigure(found.volts.toFixed(2)),
              who: found.who,
            })}
          </dd>
          <dt>{t("fitting_desk.price")}</dt>
          <dd>
            {money(found.price_cents, found.currency)}
            {found.credit_cents > 0 && (
              <Soft> {t("fitting_desk.after_credit", { credit: money(found.credit_cents, found.currency) })}</Soft>
            )}
            {found.tax_words && (
              <Soft>
                {" "}
                {t("fitting_desk.of_which", {
                  tax_words: found.tax_words,
                  tax_cents: money(found.tax_cents, found.currency),
                })}
              </Soft>
            )}
          </dd>
          {found.core_deposit_cents > 0 && (
            <>
              <dt>{t("screens.deposit")}</dt>
              <dd>
                {money(found.core_deposit_cents, found.currency)}
                {found.way_back
                  ? ""
                  : found.deposit_back
                    ? t("fitting_desk.given_back_for_the_old_one")
                    : t("fitting_desk.goes_back_with_the_old_one")}
              </dd>
            </>
          )}
          {found.car && (
            <>
              <dt>{t("screens.car")}</dt>
              <dd>{found.car}</dd>
            </>
          )}
          {found.battery_place && (
            <>
              <dt>{t("fitting_desk.sits")}</dt>
              <dd>
                {found.battery_place}
                {found.access && `: ${found.access}`}
              </dd>
            </>
          )}
        </Facts>
        {!found.way_back && <Till line={found.till_line} />}
        <Soft>
          {found.warranty_words}. {t("fitting_desk.what_is_read_while_fitting_is_what_later")}
        </Soft>
        <TakeBack found={found} />
        <Links>
          <Go href={linkTo("/api/batteries/{tag}/sale.pdf", { tag })} target="_blank">
            {t("fitting_desk.paper_for_the_sale")}
          </Go>
          <Go href={`/life/${tag}`}>{t("fitting_desk.its_life")}</Go>
          <Go href={`/check/${tag}`}>{t("fitting_desk.its_check")}</Go>
          {found.old_tag !== null && (
            <Go href={`/life/${found.old_tag}`}>{t("fitting_desk.the_old_one", { old_tag: found.old_tag })}</Go>
          )}
          <Go href="/goods?view=sold">{t("fitting_desk.all_sales")}</Go>
        </Links>
        {known?.cautions["fit"]?.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
      </Column>
    </Columns>
  );
}
