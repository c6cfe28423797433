/** What is noted on the way of a charge or a discharge: minutes, and amps or volts; added one by one, thrown away by a touch. */
import { useRef, useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Button, chipStyle, Entry } from "../../kit/parts";
import { numberOf, voltsOf } from "../../kit/units";
import { LabelledRow } from "./TickList";
import { t } from "../../language/t";

const Point = styled(AriaButton)`
  ${chipStyle}
  padding: 2px 10px;
  font-size: 16px;
  cursor: pointer;
`;

interface Props {
  label: string;
  of: "volts" | "amps";
  /** Each as minutes and the figure with a space between. */
  points: string[];
  onChange: (points: string[]) => void;
}

const byMinutes = (one: string, other: string) => Number(one.split(" ")[0]) - Number(other.split(" ")[0]);

export function LogPoints({ label, of, points, onChange }: Props) {
  const [minutes, setMinutes] = useState("");
  const [figure, setFigure] = useState("");
  const first = useRef<HTMLDivElement>(null);
  const at = numberOf(minutes);
  const read = of === "volts" ? voltsOf(figure) : numberOf(figure);
  const unit = of === "volts" ? "V" : "A";
  const noteIt = () => {
    if (at === null || read === null) return;
    onChange([...points.filter((one) => one.split(" ")[0] !== String(at)), `${at} ${read}`].toSorted(byMinutes));
    setMinutes("");
    setFigure("");
    first.current?.querySelector("input")?.focus();
  };
  // two keys a moment: Enter notes it and keeps nothing else
  const enter = (event: React.KeyboardEvent) => {
    if (event.key !== "Enter") return;
    event.preventDefault();
    event.stopPropagation();
    noteIt();
  };
  return (
    <LabelledRow role="group" aria-label={label}>
      <span>{label}</span>
      <div>
        {points.map((point) => (
          <Point
            key={point}
            aria-label={t("Throw away {0} {1}", point.replace(" ", " min, "), unit)}
            onPress={() => onChange(points.filter((other) => other !== point))}
          >
            {point.replace(" ", " min ")} {unit} ✕
          </Point>
        ))}
        <div ref={first} style={{ width: 112 }} onKeyDown={enter}>
          <Entry label={t("After")} value={minutes} onChange={setMinutes} unit={t("min")} />
        </div>
        <div style={{ width: 112 }} onKeyDown={enter}>
          <Entry
            label={of === "volts" ? t("Volts then") : t("Amps then")}
            value={figure}
            onChange={setFigure}
            unit={unit}
          />
        </div>
        <Button isDisabled={at === null || read === null} onPress={noteIt}>
          {t("Note it")}
        </Button>
      </div>
    </LabelledRow>
  );
}
