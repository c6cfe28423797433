/** A rung's form from a short description: most kinds of evidence are a few figures and choices. */
import { useEffect, type ReactNode } from "react";
import styled from "styled-components";
import type { Reading, Schema } from "../../api/client";
import { useKept } from "../../kit/drafts";
import { Choice, Entry, labelStyle } from "../../kit/parts";
import { celsiusOf, numberOf, shownTemperature, temperatureUnit, voltsOf } from "../../kit/units";
import { PullTimer } from "./PullTimer";

/** What the core says of one reading. */
export type Said = Schema["Finding"];

export interface FormProps<Kind extends Reading = Reading> {
  start: Kind | null;
  battery: Schema["Battery"];
  limits: Schema["Limits"];
  size: Schema["Size"] | null;
  store: Schema["StoreView"];
  fault: (field: string) => string | undefined;
  /** What the core says of what is typed. */
  says: Said | undefined;
  /** The reading as typed so far, without its name and time; null while it says nothing yet. */
  onType: (body: object | null) => void;
  onKeep: (body?: object) => void;
}

interface Common {
  name: string;
  label: string;
}
export type Field =
  | (Common & {
      kind: "number" | "volts" | "temperature";
      unit?: string;
      needed?: boolean;
      start?: string;
      wide?: number;
      placeholder?: string;
    })
  | (Common & { kind: "choice"; words: Record<string, string>; start: string })
  | (Common & { kind: "flag"; start?: boolean })
  | (Common & { kind: "cells"; placeholder: string })
  | (Common & { kind: "cell choice"; words: Record<string, string> });

export interface Spec {
  fields: Field[];
  /** What is asked, with this battery's own limits. */
  asks?: (props: FormProps) => ReactNode;
  /** Start values that follow from the battery. */
  starts?: (props: FormProps) => Record<string, string>;
  seconds?: (props: FormProps) => number;
  /** Minutes to wait between two of them. */
  between?: (props: FormProps) => number;
}

const Row = styled.div`
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
  align-items: flex-start;
`;
const Cells = styled.div`
  display: grid;
  gap: 6px;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  width: 100%;
`;
const Legend = styled.span`
  ${labelStyle}
`;
const Asks = styled.p`
  font-size: 17px;
  line-height: 1.3;
`;
const Form = styled.form`
  display: grid;
  gap: 10px;
`;

type Values = Record<string, string | string[] | boolean>;

function initial(spec: Spec, props: FormProps): Values {
  const known = (props.start ?? {}) as unknown as Record<string, unknown>;
  const given = spec.starts?.(props) ?? {};
  const count = (props.battery.nominal_volts ?? 12) / 2;
  return Object.fromEntries(
    spec.fields.map((field) => {
      const was = known[field.name];
      if (field.kind === "flag") return [field.name, typeof was === "boolean" ? was : (field.start ?? false)];
      if (field.kind === "cells" || field.kind === "cell choice") {
        const row = Array.isArray(was) && was.length ? was.map(String) : Array.from({ length: count }, () => "");
        return [field.name, row];
      }
      if (field.kind === "temperature") {
        const celsius = typeof was === "number" ? was : props.start ? null : props.store.bay_temperature_c;
        return [field.name, celsius == null ? "" : String(Math.round(shownTemperature(celsius, props.store)))];
      }
      if (was != null) return [field.name, String(was)];
      return [field.name, given[field.name] ?? field.start ?? ""];
    }),
  );
}

const gravityOf = (text: string) => {
  const value = numberOf(text);
  return value !== null && value > 100 ? value / 1000 : value;
};

function bodyOf(spec: Spec, values: Values, store: Schema["StoreView"]): object | null {
  const body: Record<string, unknown> = {};
  let typed = false;
  for (const field of spec.fields) {
    const value = values[field.name];
    if (Array.isArray(value)) {
      if (value.every((text) => text !== "")) {
        body[field.name] = field.kind === "cells" ? value.map(gravityOf) : value;
        if (field.kind === "cells" && value.some((text) => gravityOf(text) === null)) return null;
        typed = true;
      } else if (value.some((text) => text !== "") && field.kind === "cells") return null;
    } else if (typeof value === "boolean") {
      body[field.name] = value;
      typed ||= value;
    } else if (field.kind === "choice") body[field.name] = value;
    else {
      const parsed = field.kind === "volts" ? voltsOf(value ?? "") : numberOf(value ?? "");
      if (parsed === null && "needed" in field && field.needed) return null;
      if (field.kind === "temperature")
        body[field.name] = parsed === null ? null : Math.round(celsiusOf(parsed, store) * 10) / 10;
      else if (parsed !== null) {
        body[field.name] = parsed;
        typed = true;
      }
    }
  }
  return typed ? body : null;
}

const isFigure = (field: Field) => field.kind === "number" || field.kind === "volts" || field.kind === "temperature";

const NO_YES = { no: "No", yes: "Yes" } as const;

export function SpecForm({ spec, ...props }: FormProps & { spec: Spec }) {
  const [values, setValues] = useKept<Values>("values", () => initial(spec, props));
  const set = (name: string, value: string | string[] | boolean) =>
    setValues((before) => ({ ...before, [name]: value }));
  const body = bodyOf(spec, values, props.store);
  const said = JSON.stringify(body);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is typed changes
  useEffect(() => props.onType(body), [said]);
  const first = spec.fields.find((field) => "needed" in field && field.needed)?.name;
  const draw = (field: Field) => (
    <OneField
      key={field.name}
      field={field}
      value={values[field.name]}
      set={set}
      store={props.store}
      fault={props.fault(field.name)}
      faultOfCell={(place) => props.fault(`${field.name}[${place}]`)}
      first={field.name === first}
    />
  );
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (body) props.onKeep(body);
      }}
    >
      {spec.asks && <Asks>{spec.asks(props)}</Asks>}
      <Row>
        {spec.fields.filter(isFigure).map(draw)}
        {spec.seconds && <PullTimer seconds={spec.seconds(props)} />}
        {spec.between && <PullTimer seconds={spec.between(props) * 60} label="Between pulls" silent />}
        {spec.fields.filter((field) => !isFigure(field)).map(draw)}
      </Row>
      <button type="submit" className="quiet" tabIndex={-1}>
        Keep
      </button>
    </Form>
  );
}

interface OneProps {
  field: Field;
  value: string | string[] | boolean | undefined;
  set: (name: string, value: string | string[] | boolean) => void;
  store: Schema["StoreView"];
  fault: string | undefined;
  /** A fault of one cell of a row. */
  faultOfCell: (place: number) => string | undefined;
  first: boolean;
}

function OneField({ field, value, set, store, fault, faultOfCell, first }: OneProps) {
  if (field.kind === "flag")
    return (
      <Choice
        label={field.label}
        value={value ? "yes" : "no"}
        words={NO_YES}
        onChange={(answer) => set(field.name, answer === "yes")}
      />
    );
  if (field.kind === "choice")
    return (
      <Choice
        label={field.label}
        value={String(value)}
        words={field.words}
        onChange={(picked) => set(field.name, picked)}
      />
    );
  if (field.kind === "cells" || field.kind === "cell choice") {
    const row = Array.isArray(value) ? value : [];
    const put = (place: number, text: string) =>
      set(
        field.name,
        row.map((old, index) => (index === place ? text : old)),
      );
    return (
      <div style={{ width: "100%" }}>
        <Legend>{field.label}, from the positive post</Legend>
        <Cells>
          {row.map((text, place) =>
            field.kind === "cells" ? (
              <Entry
                key={place}
                label={`cell ${place + 1}`}
                value={text}
                onChange={(typed) => put(place, typed)}
                placeholder={field.placeholder}
                problem={text.trim() !== "" && gravityOf(text) === null ? "Enter a number" : faultOfCell(place)}
              />
            ) : (
              <Choice
                key={place}
                label={`cell ${place + 1}`}
                value={text}
                words={field.words}
                onChange={(picked) => put(place, picked)}
              />
            ),
          )}
        </Cells>
        {fault && <p style={{ color: "var(--failed)", fontWeight: 600, fontSize: 14 }}>{fault}</p>}
      </div>
    );
  }
  const text = String(value ?? "");
  const parsed = field.kind === "volts" ? voltsOf(text) : numberOf(text);
  const wrong = text.trim() !== "" && parsed === null ? "Enter a number" : fault;
  return (
    <div style={{ width: field.wide ?? (first ? 140 : 104) }}>
      <Entry
        label={field.label}
        value={text}
        onChange={(typed) => set(field.name, typed)}
        unit={field.kind === "temperature" ? temperatureUnit(store) : (field.unit ?? "")}
        big={first}
        autoFocus={first}
        problem={wrong}
        name={field.name}
        {...(field.placeholder ? { placeholder: field.placeholder } : {})}
      />
    </div>
  );
}
