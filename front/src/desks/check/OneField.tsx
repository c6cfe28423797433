/** One thing a rung asks, that is no word of its sentence: a figure, a choice, a row of cells, a list, a log. */
import styled from "styled-components";
import { Choice, labelStyle } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { temperatureUnit } from "../../kit/units";
import { unusualIn, wordsOf, type Cells, type Field, type FormProps, type Tick, type Values } from "./fields";
import { LogPoints } from "./LogPoints";
import { TickList } from "./TickList";
import { localFigure } from "../../language/catalogue";
import type { Schema } from "../../api/client";
import { t } from "../../language/t";
import { Fault } from "../../kit/formParts";

const WholeWidth = styled.div`
  width: 100%;
`;

const CellRow = styled.div`
  display: grid;
  gap: 6px;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  width: 100%;
  @media (max-width: 599px) {
    grid-auto-flow: row;
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
`;
const Legend = styled.span`
  ${labelStyle}
  b {
    color: var(--doubt);
  }
`;
interface UnusualProps {
  id: string;
  cells: number[];
  field: Cells;
  usual: Schema["Usual"] | null;
}
export const NO_YES = { no: t("screens.no"), yes: t("screens.yes") } as const;

export type Value = string | string[] | boolean | undefined;

export interface PartProps {
  field: Field;
  value: Value;
  set: (name: string, value: string | string[] | boolean) => void;
  props: FormProps;
}

export function OneField({ field, value, set, props, first, values }: PartProps & { first: boolean; values?: Values }) {
  const { store } = props;
  if (field.kind === "flag")
    return (
      <Choice
        label={field.label}
        value={value ? "yes" : "no"}
        words={field.words ?? NO_YES}
        onChange={(answer) => set(field.name, answer === "yes")}
      />
    );
  if (field.kind === "choice")
    return (
      <Choice
        label={field.label}
        value={String(value)}
        words={wordsOf(field, props)}
        onChange={(picked) => set(field.name, picked)}
      />
    );
  if (field.kind === "log") return <LogPoints field={field} values={values ?? {}} set={set} />;
  if (field.kind === "ticks")
    return (
      <TickList
        label={field.label}
        words={field.words}
        states={(Array.isArray(value) ? value : []) as Tick[]}
        onChange={(states) => set(field.name, states)}
      />
    );
  if (field.kind === "cells" || field.kind === "cell choice") {
    const row = Array.isArray(value) ? value : [];
    const put = (place: number, text: string) =>
      set(
        field.name,
        row.map((old, index) => (index === place ? text : old)),
      );
    const unusual = field.kind === "cells" ? unusualIn(field, row, values ?? {}, props) : [];
    const question = `${field.name}-question`;
    return (
      <WholeWidth>
        <Legend>
          {t("one_field.from_the_positive_post", { label: field.label })}
          {field.kind === "cells" && (
            <Unusual id={question} cells={unusual} field={field} usual={field.usual(values ?? {}, props)} />
          )}
        </Legend>
        <CellRow>
          {row.map((text, place) =>
            field.kind === "cells" ? (
              <Entry
                key={place}
                label={t("one_field.cell", { place: place + 1 })}
                value={text}
                onChange={(typed) => put(place, typed)}
                placeholder={field.placeholder}
                name={`${field.name}[${place}]`}
                askedBy={unusual.includes(place) ? question : undefined}
              />
            ) : (
              <Choice
                key={place}
                label={t("one_field.cell", { place: place + 1 })}
                value={text}
                words={field.words}
                onChange={(picked) => put(place, picked)}
              />
            ),
          )}
        </CellRow>
        {props.fault(field.name) && <Fault>{props.fault(field.name)}</Fault>}
      </WholeWidth>
    );
  }
  return (
    <div style={{ width: field.wide ?? (first ? 160 : 112) }}>
      <Entry
        label={field.label}
        value={String(value ?? "")}
        onChange={(typed) => set(field.name, typed)}
        unit={field.kind === "temperature" ? temperatureUnit(store) : (field.unit ?? "")}
        big={first}
        autoFocus={first}
        name={field.name}
        {...(field.placeholder ? { placeholder: field.placeholder } : {})}
      />
    </div>
  );
}

/** The question a figure raises that no resting cell usually shows: beside its row, so that nothing moves under a finger. */
function Unusual({ id, cells, field, usual }: UnusualProps) {
  if (usual === null || cells.length === 0) return null;
  const figure = (value: number) => localFigure(value.toFixed(field.digits));
  return (
    <b id={id} role="status">
      {" "}
      {t("one_field.is_it_so", {
        cells: cells.map((place) => place + 1).join(", "),
        least: figure(usual.least),
        most: figure(usual.most),
      })}
    </b>
  );
}
