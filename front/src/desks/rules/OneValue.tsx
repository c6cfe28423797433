/** One rule's value, set in the way its kind asks for. */
import { useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { Button, Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { nameOf, ruleName } from "../../kit/words";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

export interface Value {
  value: unknown;
  unit: string;
  source: string;
  standing: string;
  holds_from: string;
  choices?: string[];
  low?: number | null;
  high?: number | null;
}

/** A value while it is typed: words or a figure, some of a list, or figures by name. */
export type Typed = string | string[] | Record<string, string>;

export const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;
const Marks = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const Mark = styled(ToggleButton)`
  min-height: 44px;
  min-width: 44px;
  padding: 4px 12px;
  border: 1.5px solid var(--line);
  border-radius: 22px;
  background: var(--sheet);
  font-weight: 600;
  cursor: pointer;
  &[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
    border-color: var(--ink);
  }
`;
const Named = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px 10px;
`;

interface OneProps {
  rule: string;
  value: Value;
  shown: Typed;
  may: boolean;
  /** What a list may hold. */
  known: string[];
  onType: (next: Typed) => void;
  fault: string | undefined;
}

/** One rule's value, set in the way its kind asks for: a choice, a figure, words, some of a list, or one by name. */
export function OneValue({ rule, value, shown, may, known, onType, fault }: OneProps) {
  const words = value.choices?.length ? Object.fromEntries(value.choices.map((one) => [one, nameOf(one)])) : undefined;
  if (Array.isArray(shown)) {
    if (!may || known.length === 0) return <small>{shown.map(nameOf).join(", ")}</small>;
    return (
      <Marks>
        {known.map((name) => (
          <Mark
            key={name}
            isSelected={shown.includes(name)}
            onChange={(on) => onType(known.filter((one) => (one === name ? on : shown.includes(one))))}
          >
            {nameOf(name)}
          </Mark>
        ))}
        {fault && <Fault>{fault}</Fault>}
      </Marks>
    );
  }
  if (typeof shown === "object") return <ByName {...{ rule, value, shown, may, onType, fault }} />;
  if (!may) return <b>{words?.[shown] ?? shown}</b>;
  if (words) return <Choice label={ruleName(rule)} hideLabel value={shown} words={words} onChange={onType} />;
  return (
    <Entry
      label=""
      aria={ruleName(rule)}
      value={shown}
      onChange={onType}
      problem={fault}
      numeric={typeof value.value === "number"}
    />
  );
}

function ByName({
  rule,
  shown,
  may,
  onType,
  fault,
  value,
}: Omit<OneProps, "shown" | "known"> & { shown: Record<string, string> }) {
  const [open, setOpen] = useState(false);
  const numeric = Object.values(value.value as object).every((part) => typeof part === "number");
  if (!open && !fault)
    return (
      <div>
        <small>
          {Object.entries(shown)
            .map(([name, part]) => `${nameOf(name)} ${localFigure(part)}`)
            .join(numeric ? ", " : "; ")}
        </small>
        {may && (
          <Button onPress={() => setOpen(true)} aria-label={t("one_value.set", { rule: ruleName(rule) })}>
            {t("one_value.set_them")}
          </Button>
        )}
      </div>
    );
  return (
    <Named>
      {Object.entries(shown).map(([name, part]) => (
        <Entry
          key={name}
          label={nameOf(name)}
          value={part}
          numeric={numeric}
          onChange={(text) => onType({ ...shown, [name]: text })}
        />
      ))}
      {fault && <Fault>{fault}</Fault>}
    </Named>
  );
}
