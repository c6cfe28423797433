/** Some of a few, each on or off. */
import { Checkbox, CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import { chipStyle, StyledLabel, Wrong } from "../../kit/parts";

const Chips = styled(CheckboxGroup)`
  & > div {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
`;
const Chip = styled(Checkbox)`
  ${chipStyle}
`;

interface Props {
  label: string;
  words: Record<string, string>;
  value: string[];
  onChange: (value: string[]) => void;
  problem?: string | undefined;
}

export function Some({ label, words, value, onChange, problem }: Props) {
  return (
    <Chips value={value} onChange={onChange} isInvalid={problem !== undefined}>
      <StyledLabel>{label}</StyledLabel>
      <div>
        {Object.entries(words).map(([name, word]) => (
          <Chip key={name} value={name}>
            {word}
          </Chip>
        ))}
      </div>
      <Wrong>{problem}</Wrong>
    </Chips>
  );
}
