/** Records: past checks, found by whatever is known of them. The search stands in the address. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { checks } from "../../api/queries";
import { Button, Page, Soft, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { UPRIGHT } from "../../kit/theme";
import { useScrollKept } from "../../kit/useScrollKept";
import { COMPLAINTS, dayOf, listWords } from "../../kit/words";
import { InlineMark } from "../../vane/outcomes";
import { useSettled } from "../../kit/useSettled";
import { Heads } from "../goods/parts";
import { Outcome, Paging } from "./parts";
import { linkTo } from "../../api/link";
import { Otherwise } from "./Otherwise";
import { t } from "../../language/t";

const Links = styled.span`
  display: inline-flex;
  gap: 16px;
`;

const Column = styled(Page)`
  padding: 14px 24px;
  overflow: auto;
  align-content: start;
  gap: 10px;
  h1 {
    font-size: 26px;
  }
`;
const Row = styled(Link)`
  display: grid;
  grid-template-columns: 64px 110px 150px minmax(0, 1fr) 150px;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
  text-decoration: none;
  color: inherit;
  cursor: pointer;
  font-size: 16px;
  line-height: 1.2;
  ${UPRIGHT} {
    grid-template-columns: 60px minmax(0, 1fr) auto;
    gap: 2px 10px;
    & > :nth-child(4) {
      grid-column: 1 / -1;
    }
  }
  b {
    font-size: 19px;
    font-weight: 780;
  }
  &[data-current="true"] {
    background: var(--shelf);
    box-shadow: inset 4px 0 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
`;
const To = styled(Link)`
  ${touchLink}
`;

export function RecordsDesk() {
  const [params, setParams] = useSearchParams();
  const text = params.get("text") ?? "";
  const page = Number(params.get("page") ?? 0) || 0;
  const { data: found, error } = useQuery(checks(useSettled(text, 200), page));
  const column = useScrollKept(`records?${params.toString()}`, found !== undefined);

  /** The search stands in the address: Back, a reload and a link bring it again. */
  const search = (typed: string, next: number) =>
    setParams(
      { ...(typed ? { text: typed } : {}), ...(next ? { page: String(next) } : {}) },
      { replace: typed !== text },
    );
  return (
    <Column ref={column} aria-label={t("records_desk.past_checks")}>
      <Heads>
        <h1>{t("screens.records")}</h1>
        <Links>
          <To href={linkTo("/api/day-sheet.pdf")} target="_blank">
            {t("records_desk.day_sheet")}
          </To>
          <To href="/customers">{t("records_desk.customers")}</To>
        </Links>
      </Heads>
      <Otherwise />
      <Entry
        label={t("records_desk.search_by_tag_line_serial_name_phone_plate")}
        value={text}
        onChange={(typed) => search(typed, 0)}
        numeric={false}
      />
      {error && <p role="alert">{error.message}</p>}
      {found && found.found > 0 && (
        <Paging aria-label={t("records_desk.pages")}>
          <span role="status">
            {found.more ? t("records_desk.more_than") : ""}
            {found.found} {found.found === 1 ? t("screens.check") : t("records_desk.checks")}
            {found.pages > 1 && t("records_desk.page_of", { page: found.page + 1, pages: found.pages })}
          </span>
          {found.page > 0 && <Button onPress={() => search(text, found.page - 1)}>{t("records_desk.newer")}</Button>}
          {found.page + 1 < found.pages && (
            <Button onPress={() => search(text, found.page + 1)}>{t("records_desk.older")}</Button>
          )}
        </Paging>
      )}
      <div>
        {found?.checks.map((one) => (
          <Row key={`${one.tag}-${one.opened_at}`} href={`/life/${one.tag}`}>
            <b>{one.tag}</b>
            <span>{dayOf(one.opened_at)}</span>
            <span>{one.battery.line || t("screens.no_line")}</span>
            <Soft>
              {one.undone
                ? t("records_desk.taken_in_by_mistake")
                : one.figures.join(" · ") || COMPLAINTS[one.complaint]}
            </Soft>
            {one.outcome ? (
              <Outcome>
                <InlineMark outcome={one.outcome} /> {listWords({ outcome: one.outcome, sold: one.sold })}
              </Outcome>
            ) : (
              <Soft>{t("screens.not_read_yet")}</Soft>
            )}
          </Row>
        ))}
        {found?.found === 0 && <p>{t("records_desk.no_check_matches_try_part_of_the_line_or", { text })}</p>}
      </div>
    </Column>
  );
}
