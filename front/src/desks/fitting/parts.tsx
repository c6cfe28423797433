/** What the fitting list is made of: its boxes, the figures it asks for, the line for the till. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Entry } from "../../kit/Entry";
import { Button, Soft } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { t } from "../../language/t";

const ToCopy = styled.output`
  user-select: all;
`;
const OneFigure = styled.div`
  width: 170px;
`;

const Reads = styled.form`
  display: flex;
  gap: 8px;
  align-items: end;
  padding: 6px 6px 8px 46px;
  border-bottom: 1px solid var(--line);
`;
export const UNITS = { volts: "V", mA: "mA", "": "" } as const;

/** What it is rung up as, to be taken over to the till. */
export function Till({ line }: { line: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <p>
      <Soft>{t("parts.for_the_till")}</Soft> <ToCopy>{line}</ToCopy>{" "}
      {"clipboard" in navigator && (
        <Button
          onPress={() =>
            void navigator.clipboard.writeText(line).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          {copied ? t("screens.copied") : t("parts.copy")}
        </Button>
      )}
    </p>
  );
}

export function Reading({
  one,
  fault,
  onKeep,
}: {
  one: Schema["TickedStep"];
  fault: string | undefined;
  onKeep: (figure: number) => void;
}) {
  const [text, setText] = useState("");
  const value = numberOf(text);
  return (
    <Reads
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null) onKeep(value);
      }}
    >
      <OneFigure>
        <Entry
          label=""
          aria={one.step.text}
          value={text}
          onChange={setText}
          unit={UNITS[one.step.figure]}
          big
          autoFocus
          name="figure"
          problem={text.trim() !== "" && value === null ? t("parts.a_number") : fault}
        />
      </OneFigure>
      <Button type="submit" $tone="strong" isDisabled={value === null}>
        {t("parts.keep")}
      </Button>
    </Reads>
  );
}

/** A box as one draws it on paper: empty, or crossed through. */
export const Box = ({ done }: { done: boolean }) => (
  <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden>
    <rect x="3" y="3" width="20" height="20" rx="3" fill="none" stroke="currentColor" strokeWidth="2" />
    {done && <path d="M6 14 l5 6 l10 -15" fill="none" stroke="var(--sound)" strokeWidth="3.5" />}
  </svg>
);
