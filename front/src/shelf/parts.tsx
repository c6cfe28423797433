/** What a place on the shelf is made of. */
import { Button as AriaButton, Popover } from "react-aria-components";
import styled from "styled-components";

export const Place = styled.section`
  flex: none;
`;
export const Standing = styled.ul`
  display: flex;
  align-items: flex-end;
  border-bottom: 2.5px solid var(--rule);
  min-height: 74px;
`;
export const NameOfPlace = styled(AriaButton)`
  min-height: 44px;
  margin: 0 0 -10px;
  padding: 0 4px 12px 0;
  border: none;
  background: none;
  cursor: pointer;
  font-size: 16px;
  color: var(--soft);
  white-space: nowrap;
  position: sticky;
  left: 0;
  b {
    color: var(--ink);
    font-weight: 700;
  }
  &[data-hovered] {
    color: var(--ink);
  }
`;
export const Sheet = styled(Popover)`
  width: min(440px, 96vw);
  max-height: 70vh;
  overflow: auto;
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 10px 12px;
  h2 {
    font-size: 19px;
    padding: 4px 6px;
  }
`;
