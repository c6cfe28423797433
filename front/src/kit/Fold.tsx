/** What is not asked for now: one line that opens, and says by its sign that it does. */
import styled from "styled-components";

export const Fold = styled.details`
  font-size: 16px;
  summary {
    cursor: pointer;
    min-height: 44px;
    display: flex;
    align-items: center;
    gap: 6px;
    color: var(--soft);
    list-style: none;
  }
  summary::before {
    content: "▸";
  }
  &[open] > summary::before {
    content: "▾";
  }
  > * + * {
    margin-top: 8px;
  }
`;
