/** A menu that opens from a button. */
import { MenuItem, Popover } from "react-aria-components";
import styled from "styled-components";

export const MenuSheet = styled(Popover)`
  background: var(--sheet);
  color: var(--ink);
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  min-width: 250px;
`;
export const MenuOption = styled(MenuItem)`
  min-height: 44px;
  padding: 10px 14px;
  cursor: pointer;
  border-radius: 6px;
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
    outline: none;
  }
`;
