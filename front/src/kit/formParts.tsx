/** What forms are laid out with: figures beside one another, acts in a row, what is wrong. */
import styled from "styled-components";

export const Figures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
  gap: 10px;
  align-items: end;
`;
export const Acts = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;
export const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;
