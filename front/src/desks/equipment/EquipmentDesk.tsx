/** The book of equipment: what the shop charges, measures and pulls with, in what state, checked when; and its opening hours. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton, Link } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { equipment } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { Button, Empty, Page, touchLink } from "../../kit/parts";
import { NARROW, PHONE, UPRIGHT } from "../../kit/theme";
import { dayOf, mayLead } from "../../kit/words";
import { Heads } from "../goods/parts";
import { HoursForm } from "./HoursForm";
import { ToolForm } from "./ToolForm";
import { KINDS, SEVERAL, STATES, wordsOf, type Kind } from "./tool";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  ${UPRIGHT} {
    display: block;
    overflow: auto;
  }
`;
const Column = styled.section`
  position: relative;
  padding: 12px 20px;
  overflow: auto;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 24px;
  }
  h2 {
    font-size: 18px;
  }
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
`;
const Row = styled(AriaButton)`
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 5px 8px;
  border: none;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  font-size: 16px;
  line-height: 1.2;
  cursor: pointer;
  b {
    font-size: 18px;
    font-weight: 750;
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
  em {
    font-style: normal;
    font-weight: 650;
    color: var(--failed);
  }
  &[aria-pressed="true"] {
    background: var(--shelf);
    box-shadow: inset 4px 0 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
  ${PHONE} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const ToRack = styled(Link)`
  ${touchLink}
`;

export function EquipmentDesk({ who }: { who: Schema["Me"] }) {
  const { data: found, error } = useQuery(equipment);
  const [picked, setPicked] = useState<number | Kind | null>(null);
  if (!found)
    return error ? <Page><Empty><h2>{error.message}</h2></Empty></Page> : <Outline />; // prettier-ignore
  const tool = found.find(({ id }) => id === picked);
  const kind = typeof picked === "string" ? picked : tool?.equipment.tool.kind;
  return (
    <Columns>
      <Column aria-label={t("equipment_desk.the_tools")}>
        <Heads>
          <h1>{t("screens.book_of_equipment")}</h1>
          <ToRack href="/rack">{t("equipment_desk.to_the_rack")}</ToRack>
        </Heads>
        {(Object.keys(KINDS) as Kind[]).map((of) => (
          <div key={of}>
            <Heads>
              <h2>{SEVERAL[of]}</h2>
              <Button
                onPress={() => setPicked(of)}
                aria-label={t("equipment_desk.write_one_in", { of: small(KINDS[of]) })}
              >
                {t("screens.write_one_in")}
              </Button>
            </Heads>
            {found
              .filter(({ equipment: { tool } }) => tool.kind === of)
              .map((row) => (
                <Row key={row.id} aria-pressed={row.id === picked} onPress={() => setPicked(row.id)}>
                  <b>{row.equipment.name}</b>
                  <small>
                    {wordsOf(row.equipment)}
                    {row.equipment.remarks && `; ${row.equipment.remarks}`}
                  </small>
                  <State row={row} />
                </Row>
              ))}
          </div>
        ))}
      </Column>
      <Column aria-label={t("equipment_desk.one_tool")}>
        {kind ? (
          <ToolForm key={String(picked)} kind={kind} row={tool ?? null} onDone={() => setPicked(null)} />
        ) : (
          <HoursForm mayChange={mayLead(who)} />
        )}
      </Column>
    </Columns>
  );
}

function State({ row }: { row: Schema["EquipmentView"] }) {
  const state = row.equipment.state ?? "in_use";
  if (state !== "in_use") return <em>{small(STATES[state])}</em>;
  if (row.overdue_since)
    return <em>{t("equipment_desk.check_due_since", { overdue_since: dayOf(row.overdue_since) })}</em>;
  return (
    <small>
      {row.equipment.checked_on
        ? t("equipment_desk.checked", { checked_on: dayOf(row.equipment.checked_on) })
        : t("equipment_desk.never_checked")}
    </small>
  );
}
