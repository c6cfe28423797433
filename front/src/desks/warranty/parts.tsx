/** What the warranty desk is laid out with: its two columns, its sums, its questions, its papers. */
import { Link } from "react-aria-components";
import styled from "styled-components";
import { Page, touchLink } from "../../kit/parts";
import { NARROW, UPRIGHT } from "../../kit/theme";

export const OutcomeWord = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 5px;
`;
export const ForCustomer = styled.p`
  font-size: 18px;
`;
export const Replacement = styled.div`
  max-width: 470px;
`;
export const ClaimLine = styled.div`
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
`;
export const Written = styled.p`
  font-weight: 700;
  color: var(--sound);
`;

export const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    overflow: auto;
    align-content: start;
  }
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
export const Column = styled.section`
  padding: 16px 24px;
  overflow: auto;
  min-width: 0;
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
  display: grid;
  align-content: start;
  grid-auto-rows: max-content;
  gap: 14px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 31px;
    line-height: 1.1;
  }
  h2 {
    font-size: 17px;
  }
`;
export const Money = styled.dl`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 18px;
  font-size: 18px;
  max-width: 470px;
  dd {
    text-align: right;
    font-weight: 650;
  }
  .total {
    font-size: 26px;
    font-weight: 780;
    border-top: 2px solid var(--rule);
    padding-top: 6px;
  }
`;
export const Paper = styled(Link)`
  ${touchLink}
`;
export const Why = styled.ol`
  display: grid;
  gap: 0;
  li {
    display: grid;
    grid-template-columns: 26px 1fr;
    gap: 8px;
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
    line-height: 1.25;
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 16px;
  }
`;
export const Act = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 4px 14px;
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  color: var(--ink);
  font-weight: 650;
  text-decoration: none;
  cursor: pointer;
`;
