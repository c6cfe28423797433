/** What is noted on the way of a charge or a discharge: minutes, and amps or volts; added one by one, thrown away by a touch. */
import { useRef } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Button, chipStyle } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { numberOf } from "../../kit/units";
import { momentsIn, nextOf, type Log, type Values } from "./fields";
import { LabelledRow } from "./TickList";
import { t } from "../../language/t";

const Point = styled(AriaButton)`
  ${chipStyle}
  padding: 2px 10px;
  font-size: 16px;
  cursor: pointer;
`;

/** What is wrong with one field stands under it and moves nothing beside it. */
const FIELD = { width: 112, alignSelf: "start" } as const;
const LABEL_PX = 22;

interface Props {
  field: Log;
  values: Values;
  set: (name: string, value: string | string[]) => void;
}

/** What is typed of the next moment is the form's own: it is kept with the rest, noted or not, or it stays half typed. */
export function LogPoints({ field, values, set }: Props) {
  const first = useRef<HTMLDivElement>(null);
  const noted = values[field.name];
  const points = Array.isArray(noted) ? noted : [];
  const next = nextOf(field);
  const minutes = String(values[next.minutes] ?? "");
  const figure = String(values[next.figure] ?? "");
  const all = momentsIn(field, values);
  const isReady = all !== null && (minutes !== "" || figure !== "");
  const problem = all === null && minutes !== "" && figure !== "" ? t("screens.enter_a_number") : undefined;
  const unit = field.of === "volts" ? "V" : "A";
  const noteIt = () => {
    if (!isReady) return;
    set(field.name, all);
    set(next.minutes, "");
    set(next.figure, "");
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
    <LabelledRow role="group" aria-label={field.label}>
      <span>{field.label}</span>
      <div>
        {points.map((point) => (
          <Point
            key={point}
            aria-label={t("log_points.throw_away", { point: point.replace(" ", " min, "), unit })}
            onPress={() =>
              set(
                field.name,
                points.filter((other) => other !== point),
              )
            }
          >
            {point.replace(" ", " min ")} {unit} ✕
          </Point>
        ))}
        <div ref={first} style={FIELD} onKeyDown={enter}>
          <Entry
            label={t("log_points.after")}
            value={minutes}
            onChange={(typed) => set(next.minutes, typed)}
            unit={t("screens.min_2")}
            name={`${field.name}.minutes`}
            problem={numberOf(minutes) === null ? problem : undefined}
          />
        </div>
        <div style={FIELD} onKeyDown={enter}>
          <Entry
            label={field.of === "volts" ? t("log_points.volts_then") : t("log_points.amps_then")}
            value={figure}
            onChange={(typed) => set(next.figure, typed)}
            unit={unit}
            name={`${field.name}.${field.of}`}
            problem={numberOf(minutes) === null ? undefined : problem}
          />
        </div>
        <Button isDisabled={!isReady} onPress={noteIt} style={{ alignSelf: "start", marginTop: LABEL_PX }}>
          {t("log_points.note_it")}
        </Button>
      </div>
    </LabelledRow>
  );
}
