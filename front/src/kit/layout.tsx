/** How things stand to one another: below, beside, or through the grid around them. */
import { Form } from "react-aria-components";
import styled from "styled-components";

/** One below the other. */
export const Stack = styled.div<{ $gap: number }>`
  display: grid;
  gap: ${({ $gap }) => $gap}px;
`;
/** One beside the other, on one line. */
export const Beside = styled.div<{ $gap: number }>`
  display: flex;
  gap: ${({ $gap }) => $gap}px;
  align-items: center;
`;
/** A name and what is said of it, in the grid around them. */
export const Pair = styled.div`
  display: contents;
`;
/** A form, one field below the other. */
export const FormStack = styled(Form)`
  display: grid;
  gap: 10px;
`;
