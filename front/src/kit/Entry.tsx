/** One typed value. */
import { useContext, type Ref } from "react";
import { FormValidationContext, TextField } from "react-aria-components";
import styled from "styled-components";
import { StyledInput, StyledLabel, Wrong } from "./parts";

const Field = styled.div`
  position: relative;
`;
const Box = styled.div`
  position: relative;
  min-width: 0;
`;
const Unit = styled.span<{ $big?: boolean }>`
  position: absolute;
  right: 11px;
  bottom: ${({ $big }) => ($big ? 14 : 11)}px;
  color: var(--soft);
  font-size: 16px;
  pointer-events: none;
`;

interface EntryProps {
  label: string;
  value: string;
  onChange: (text: string) => void;
  unit?: string;
  big?: boolean;
  problem?: string | undefined;
  numeric?: boolean;
  placeholder?: string;
  inputRef?: Ref<HTMLInputElement>;
  autoFocus?: boolean;
  name?: string;
  /** The name for a screen reader where no label is shown. */
  aria?: string;
  /** It may be typed so and is asked about: where the question stands. */
  askedBy?: string | undefined;
}

/** One typed value, with its unit beside it and its fault below it: given here, or by its name through the form around it. */
export function Entry({
  label,
  value,
  onChange,
  unit,
  big = false,
  problem,
  numeric = true,
  placeholder,
  inputRef,
  autoFocus,
  name,
  aria,
  askedBy,
}: EntryProps) {
  // Taken from the form by hand: the field itself would hide what the form still says as soon as Enter is pressed in it.
  const faults = useContext(FormValidationContext);
  const fault = problem ?? (name ? [faults[name]].flat()[0] : undefined);
  return (
    <TextField
      validationBehavior="aria"
      value={value}
      onChange={onChange}
      {...(fault === undefined ? {} : { isInvalid: true })}
      {...(autoFocus ? { autoFocus } : {})}
      {...(name ? { name } : {})}
      {...(aria ? { "aria-label": aria } : {})}
      {...(askedBy ? { "aria-describedby": askedBy } : {})}
    >
      <Box>
        {label && <StyledLabel>{label}</StyledLabel>}
        <Field>
          <StyledInput
            $big={big}
            inputMode={numeric ? "decimal" : "text"}
            autoComplete="off"
            $asked={askedBy !== undefined}
            {...(placeholder ? { placeholder } : {})}
            {...(inputRef ? { ref: inputRef } : {})}
          />
          {unit && <Unit $big={big}>{unit}</Unit>}
        </Field>
        <Wrong>{fault}</Wrong>
      </Box>
    </TextField>
  );
}
