/** Volts noted on the way of a timed discharge: minutes and volts, added one by one, thrown away by a touch. */
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Button, chipStyle, Entry } from "../../kit/parts";
import { numberOf, voltsOf } from "../../kit/units";
import { LabelledRow } from "./TickList";

const Point = styled(AriaButton)`
  ${chipStyle}
  padding: 2px 10px;
  font-size: 16px;
  cursor: pointer;
`;

interface Props {
  label: string;
  /** Each as minutes and volts with a space between. */
  points: string[];
  onChange: (points: string[]) => void;
}

const byMinutes = (one: string, other: string) => Number(one.split(" ")[0]) - Number(other.split(" ")[0]);

export function LogPoints({ label, points, onChange }: Props) {
  const [minutes, setMinutes] = useState("");
  const [volts, setVolts] = useState("");
  const at = numberOf(minutes);
  const read = voltsOf(volts);
  return (
    <LabelledRow role="group" aria-label={label}>
      <span>{label}</span>
      <div>
        {points.map((point) => (
          <Point
            key={point}
            aria-label={`Throw away ${point.replace(" ", " min, ")} V`}
            onPress={() => onChange(points.filter((other) => other !== point))}
          >
            {point.replace(" ", " min ")} V ✕
          </Point>
        ))}
        <div style={{ width: 112 }}>
          <Entry label="After" value={minutes} onChange={setMinutes} unit="min" />
        </div>
        <div style={{ width: 112 }}>
          <Entry label="Volts then" value={volts} onChange={setVolts} unit="V" />
        </div>
        <Button
          isDisabled={at === null || read === null}
          onPress={() => {
            onChange([...points, `${at} ${read}`].toSorted(byMinutes));
            setMinutes("");
            setVolts("");
          }}
        >
          Note it
        </Button>
      </div>
    </LabelledRow>
  );
}
