/** Small shared parts on React Aria: one look for every button, entry and choice. */
import { memo, type ReactNode } from "react";
import { Button as AriaButton, FieldError, Input, Label, ModalOverlay, Radio, RadioGroup } from "react-aria-components";
import styled, { css } from "styled-components";

/** A link in the text, tall enough for a finger. */
export const touchLink = css`
  color: var(--copper);
  font-weight: 650;
  min-height: 44px;
  min-width: 44px;
  display: inline-flex;
  align-items: center;
`;

export const Button = styled(AriaButton)<{ $tone?: "plain" | "strong" | "copper" }>`
  min-height: 44px;
  padding: 6px 16px;
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  background: transparent;
  font-weight: 600;
  cursor: pointer;
  text-align: left;
  ${({ $tone }) =>
    $tone === "strong" &&
    css`
      background: var(--step);
      border-color: var(--ink);
      color: var(--on-step);
    `}
  ${({ $tone }) =>
    $tone === "copper" &&
    css`
      border-color: var(--copper);
      color: var(--copper);
    `}
  &[data-hovered] {
    box-shadow: inset 0 0 0 1.5px currentColor;
  }
  &[data-pressed] {
    transform: translateY(1px);
  }
  &[data-disabled] {
    opacity: 0.45;
    cursor: default;
  }
`;

export const Key_ = styled.kbd.attrs({ "aria-hidden": true })`
  display: inline-grid;
  place-items: center;
  min-width: 24px;
  height: 24px;
  padding: 0 5px;
  border: 1.5px solid currentColor;
  border-radius: 5px;
  font: 700 14px/1 inherit;
  font-size: 14px;
  font-family: inherit;
  opacity: 0.75;
`;

const entryStyle = css`
  min-height: 44px;
  width: 100%;
  padding: 4px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  &[data-focused] {
    border-color: var(--ink);
    outline: none;
    box-shadow: 0 0 0 2px var(--ink);
  }
  &[data-invalid] {
    border-color: var(--failed);
    box-shadow: 0 0 0 1px var(--failed);
  }
  &::placeholder {
    color: var(--soft);
    opacity: 0.8;
  }
`;

export const labelStyle = css`
  display: block;
  margin-bottom: 3px;
  color: var(--soft);
  font-size: 16px;
`;

export const StyledLabel = styled(Label)`
  ${labelStyle}
`;
export const StyledInput = styled(Input)<{ $big?: boolean; $asked?: boolean }>`
  ${entryStyle}
  ${({ $asked }) =>
    $asked &&
    css`
      border: 2px dashed var(--doubt);
    `}
  ${({ $big }) =>
    $big &&
    css`
      font-size: 26px;
      font-weight: 700;
      min-height: 52px;
    `}
`;
export const Wrong = styled(FieldError)`
  display: block;
  margin-top: 3px;
  color: var(--failed);
  font-size: 16px;
  font-weight: 600;
`;

const Chips = styled(RadioGroup)`
  & > div {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
`;
export const chipStyle = css`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  min-height: 44px;
  min-width: 44px;
  padding: 4px 12px;
  border: 1.5px solid var(--line);
  border-radius: 22px;
  background: var(--sheet);
  cursor: pointer;
  font-weight: 500;
  &[data-selected] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--on-ink);
    font-weight: 650;
  }
  &[data-hovered]:not([data-selected]) {
    border-color: var(--ink);
  }
`;
const Chip = styled(Radio)`
  ${chipStyle}
`;

interface ChoiceProps<Value extends string> {
  label: string;
  value: Value | null;
  words: Partial<Record<Value, string>>;
  onChange: (value: Value) => void;
  hideLabel?: boolean;
}

/** One of a few, all in sight. Drawn anew only when it changes: typing beside it must stay quick. */
export const Choice = memo(ChoiceDrawn) as typeof ChoiceDrawn;

function ChoiceDrawn<Value extends string>({ label, value, words, onChange, hideLabel = false }: ChoiceProps<Value>) {
  const options = Object.entries(words) as [Value, string][];
  return (
    <Chips value={value} onChange={(picked) => onChange(picked as Value)} aria-label={label}>
      {!hideLabel && <StyledLabel>{label}</StyledLabel>}
      <div>
        {options.map(([option, word]) => (
          <Chip key={option} value={option}>
            {word}
          </Chip>
        ))}
      </div>
    </Chips>
  );
}

const CautionLine = styled.p`
  display: flex;
  gap: 8px;
  align-items: baseline;
  color: var(--soft);
  font-size: 16px;
  line-height: 1.25;
  &::before {
    content: "";
    flex: none;
    width: 12px;
    height: 12px;
    border-radius: 2px;
    background: repeating-linear-gradient(45deg, var(--band-a) 0 3px, var(--band-b) 3px 6px);
  }
`;

/** A caution in one line, where its hazard arises. */
export function Caution({ children }: { children: ReactNode }) {
  return <CautionLine role="note">{children}</CautionLine>;
}

export const Figure = styled.span`
  font-weight: 750;
  font-size: 1.35em;
`;
export const Soft = styled.span`
  color: var(--soft);
  font-size: max(16px, 0.86em);
`;

/** What stands over the page until it is closed. */
export const Over = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: rgb(20 20 22 / 0.28);
`;

export const Page = styled.main`
  height: 100%;
  min-height: 0;
  display: grid;
  overflow: hidden;
`;

export const Empty = styled.div`
  display: grid;
  place-content: center;
  gap: 10px;
  text-align: center;
  color: var(--soft);
  height: 100%;
  padding: 24px;
  h1,
  h2 {
    font-size: 24px;
    color: var(--ink);
  }
`;
