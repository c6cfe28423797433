/** What stands in a desk's place until it is there: which one opens, and the lines it will be written on. */
import { useLocation } from "react-router";
import styled from "styled-components";
import { t } from "../language/t";
import { NARROW } from "./theme";
import { Page } from "./parts";

const Sheets = styled(Page)`
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Sheet = styled.div`
  padding: 14px 16px;
  display: grid;
  gap: 18px;
  align-content: start;
  border-right: 1.5px solid var(--line);
  p {
    font-size: 22px;
    font-weight: 750;
    color: var(--soft);
  }
  ${NARROW} {
    & + & {
      display: none;
    }
  }
`;
const Board = styled.i`
  display: block;
  height: 40px;
  border-bottom: 2px solid var(--line);
`;

/** Written as they are opened: the first word of the address. */
const NAMES: Record<string, string> = {
  "": t("outline.the_counter_opens"),
  counter: t("outline.the_counter_opens"),
  check: t("outline.the_check_opens"),
  "take-in": t("outline.the_label_opens"),
  match: t("outline.match_opens"),
  warranty: t("outline.the_warranty_opens"),
  life: t("outline.the_life_opens"),
  fitting: t("outline.the_fitting_list_opens"),
  records: t("outline.the_records_open"),
  customers: t("outline.the_customers_open"),
  rules: t("outline.the_house_rules_open"),
  house: t("outline.the_house_opens"),
  rack: t("outline.the_rack_opens"),
  equipment: t("outline.the_book_of_equipment_opens"),
  goods: t("outline.the_goods_open"),
};

const boards = (count: number) => Array.from({ length: count }, (_, place) => <Board key={place} />);

/** One sheet that loads, inside a desk that stands. */
export function OutlineSheet() {
  const desk = useLocation().pathname.split("/")[1] ?? "";
  return (
    <Sheet aria-busy>
      <p role="status">{NAMES[desk] ?? t("outline.the_desk_opens")}…</p>
      {boards(8)}
    </Sheet>
  );
}

/** A desk that loads: said at once, in its place, with its outline. */
export const Outline = () => (
  <Sheets aria-busy>
    <OutlineSheet />
    <Sheet aria-hidden>{boards(5)}</Sheet>
  </Sheets>
);

const Whole = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: 56px minmax(0, 1fr) 150px;
`;
const Strip = styled.div`
  border-block: 2px solid var(--rule);
`;

const ShelfStrip = styled(Strip)`
  background: var(--shelf);
`;

/** The whole page before it is known who is signed in: its top line, a desk's outline, the shelf's board. */
export const Opening = () => (
  <Whole>
    <Strip aria-hidden />
    <Outline />
    <ShelfStrip aria-hidden />
  </Whole>
);
