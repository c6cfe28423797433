/** How the take-in lies on the page. */
import { Form } from "react-aria-components";
import styled from "styled-components";
import { NARROW, UPRIGHT } from "../../kit/theme";

export const Sheet = styled(Form)`
  height: 100%;
  min-height: 0;
  display: grid;
  grid-template-columns: 1.12fr 1.2fr 290px;
  overflow: hidden;
  ${NARROW} {
    grid-template-columns: 1.1fr 1fr;
    grid-template-rows: minmax(0, 1fr) auto;
    & > section:last-child {
      grid-column: 1 / -1;
      border-top: 1px solid var(--line);
      border-left: none;
      flex-direction: row;
      flex-wrap: wrap;
      align-items: center;
      padding: 10px 16px;
      svg {
        display: none;
      }
    }
  }
  ${UPRIGHT} {
    display: block;
    overflow: auto;
    & > section {
      overflow: visible;
    }
    & > section + section {
      border-left: none;
    }
  }
  & > section {
    padding: 14px 20px;
    overflow: auto;
    display: flex;
    flex-direction: column;
    gap: 13px;
  }
  & > section + section {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 26px;
    line-height: 1.1;
  }
  h2 {
    font-size: 19px;
  }
`;
export const Row = styled.div<{ $columns?: string }>`
  display: grid;
  gap: 12px;
  grid-template-columns: ${({ $columns }) => $columns ?? "1fr 1fr"};
  align-items: start;
  @media (max-width: 599px) {
    grid-template-columns: 1fr 1fr;
  }
`;
export const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;
