/** What the records and a life share. */
import styled from "styled-components";

export const Outcome = styled.span`
  display: inline-flex;
  gap: 7px;
  align-items: center;
  font-weight: 600;
`;
export const Paging = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
`;
