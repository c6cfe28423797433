/** What the desks of the goods share. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Page } from "../../kit/parts";
import { NARROW, PHONE, UPRIGHT } from "../../kit/theme";

export { Acts, Fault, Figures } from "../../kit/formParts";

export const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  ${UPRIGHT} {
    display: block;
    overflow: auto;
  }
`;
export const Column = styled.section`
  position: relative;
  padding: 12px 20px;
  overflow: auto;
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
  & > * {
    flex: none;
  }
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
export const Line = styled(AriaButton)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 92px 86px;
  gap: 2px 12px;
  align-items: baseline;
  width: 100%;
  min-height: 44px;
  padding: 7px 8px;
  border: none;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  font-size: 16px;
  line-height: 1.2;
  cursor: pointer;
  b {
    font-size: 17px;
    font-weight: 700;
  }
  small {
    font-size: 16px;
    color: var(--soft);
  }
  span {
    text-align: right;
  }
  em {
    font-style: normal;
    font-weight: 650;
    color: var(--copper);
  }
  &[aria-pressed="true"] {
    background: var(--shelf);
    box-shadow: inset 4px 0 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
  ${PHONE} {
    grid-template-columns: minmax(0, 1fr) auto;
  }
`;
export const Heads = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
`;
export const Small = styled.ul`
  display: grid;
  font-size: 16px;
  line-height: 1.3;
  li {
    padding: 5px 0;
    border-bottom: 1px solid var(--line);
  }
`;
