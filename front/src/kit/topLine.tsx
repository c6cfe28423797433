/** What the top line is made of. */
import { Button as AriaButton, Popover } from "react-aria-components";
import styled from "styled-components";
import { NARROW, PHONE } from "./theme";

export const Person = styled(AriaButton)<{ $onlyWide?: boolean; $onlyNarrow?: boolean; $notPhone?: boolean }>`
  min-width: 44px;
  height: 44px;
  padding: 0 10px;
  border-radius: 22px;
  border: 1.5px solid var(--line);
  background: none;
  cursor: pointer;
  color: var(--soft);
  font-weight: 600;
  font-size: 16px;
  &[data-current="true"] {
    border-color: var(--ink);
    color: var(--ink);
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
  ${NARROW} {
    ${({ $onlyWide }) => $onlyWide && "display: none;"}
  }
  ${PHONE} {
    ${({ $notPhone }) => $notPhone && "display: none;"}
  }
  @media (min-width: 1180px) {
    ${({ $onlyNarrow }) => $onlyNarrow && "display: none;"}
  }
`;
export const Sheet = styled(Popover)`
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 10px 14px;
  nav {
    display: grid;
  }
  a {
    min-height: 48px;
    place-items: center start;
  }
`;
