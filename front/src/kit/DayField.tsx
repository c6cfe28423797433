/** A day, typed part by part. */
import { parseDate } from "@internationalized/date";
import { DateField, DateInput, DateSegment, Label } from "react-aria-components";
import styled from "styled-components";
import { labelStyle, Wrong } from "./parts";

const DateLabel = styled(Label)`
  ${labelStyle}
`;
const DateBox = styled(DateInput)`
  display: flex;
  align-items: center;
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  &[data-focus-within] {
    border-color: var(--ink);
    box-shadow: 0 0 0 2px var(--ink);
  }
  &[data-invalid] {
    border-color: var(--failed);
  }
`;
const Segment = styled(DateSegment)`
  padding: 2px 3px;
  border-radius: 4px;
  &[data-placeholder] {
    color: var(--soft);
  }
  &:focus {
    background: var(--ink);
    color: var(--on-ink);
    outline: none;
  }
`;

interface Props {
  label: string;
  value: string | null;
  onChange: (day: string | null) => void;
  name?: string;
  problem?: string | undefined;
}

export function DayField({ label, value, onChange, name, problem }: Props) {
  return (
    <DateField
      validationBehavior="aria"
      value={value ? parseDate(value) : null}
      onChange={(day) => onChange(day ? day.toString() : null)}
      {...(name ? { name } : {})}
      {...(problem === undefined ? {} : { isInvalid: true })}
    >
      <DateLabel>{label}</DateLabel>
      <DateBox>{(segment) => <Segment segment={segment} />}</DateBox>
      <Wrong>{problem}</Wrong>
    </DateField>
  );
}
