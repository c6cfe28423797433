/** A rung's form: the figures in large type, what is usually right as a spoken line, and a keep for a finger. */
import { useState, type ReactNode } from "react";
import { flushSync } from "react-dom";
import { Form as AriaForm } from "react-aria-components";
import styled from "styled-components";
import type { Reading } from "../../api/client";
import type { Method } from "../../api/methods";
import { useKept } from "../../kit/drafts";
import { Button, Key_ } from "../../kit/parts";
import { Sentence, Spoken, Word, WordChoices, WordFigure } from "../../kit/Spoken";
import { useFirstField } from "../../kit/useFirstField";
import { numberOf, temperatureUnit, voltsFault, voltsOf } from "../../kit/units";
import {
  bodyOf,
  gravityOf,
  initial,
  isFigure,
  isAsked,
  isHalf,
  isNoFigure,
  momentsIn,
  wordsOf,
  type BodyOf,
  type Field,
  type FieldOf,
  type FormProps,
  type Values,
} from "./fields";
import { PullTimer } from "./PullTimer";
import { NO_YES, OneField, type PartProps, type Value } from "./OneField";
import { More } from "./TickList";
import { ToolChoices, ToolWord, useToolStarts } from "./ToolWord";
import { useTyped } from "./useTyped";
import { smallFirst } from "../../language/catalogue";
import { t } from "../../language/t";

export interface Spec<K extends Method = Method> {
  fields: readonly FieldOf<Extract<Reading, { kind?: K }>>[];
  /** What is asked, with this battery's own limits. */
  asks?: (props: FormProps, values: Values) => ReactNode;
  /** Start values that follow from the battery. */
  starts?: (props: FormProps) => Record<string, string>;
  /** What is drawn of what is typed. */
  draws?: (props: FormProps, values: Values) => ReactNode;
  timer?: (props: FormProps, values: Values) => { seconds: number; label?: string } | null;
  /** Whether what is typed is a reading at all, where no single field must be. */
  enough?: (body: BodyOf<K>) => boolean;
  /** Minutes to wait between two of them. */
  between?: (props: FormProps) => number;
}

const Row = styled.div`
  display: flex;
  gap: 12px 16px;
  flex-wrap: wrap;
  align-items: flex-start;
`;
const Asks = styled.p`
  font-size: 18px;
  line-height: 1.3;
`;
const Keep = styled(Button)`
  min-height: 52px;
  margin-top: 26px;
  margin-left: auto;
`;
/** What the core doubts of what is typed: it comes when it was thought over, so it stands below, and moves nothing under a finger. */
const Doubt = styled.p`
  font-size: 16px;
  line-height: 1.25;
  font-weight: 600;
  color: var(--doubt);
`;
const Form = styled(AriaForm)`
  display: grid;
  gap: 4px;
`;

/** Steps whose words are the set-point that the rung shows itself. */
export const isLoad = (key: string | null) => key === "load_test" || key === "load_again";

export function SpecForm<K extends Method>({ spec, ...props }: FormProps & { spec: Spec<K> }) {
  const fields: readonly Field[] = spec.fields;
  const [values, setValues, now] = useKept<Values>("values", () => initial(fields, spec.starts?.(props) ?? {}, props));
  const set = (name: string, value: string | string[] | boolean) =>
    setValues((before) => ({ ...before, [name]: value }));
  const { body, read } = useTyped(props, values, now, (typed) => ({
    body: bodyOf<K>(fields, typed, props, spec.enough),
    half: fields.some(
      (field) =>
        isAsked(field, typed, props) &&
        (isHalf(field, typed[field.name]) ||
          isNoFigure(field, typed[field.name]) ||
          (field.kind === "log" && momentsIn(field, typed) === null)),
    ),
  }));
  useToolStarts(props, () => spec.starts?.(props) ?? {}, setValues);
  const form = useFirstField();
  const inUse = fields.filter((field) => isAsked(field, values, props));
  const first = inUse.find((field) => isFigure(field) && !field.say)?.name;
  const draw = (field: Field) => (
    <OneField
      key={field.name}
      field={field}
      value={values[field.name]}
      set={set}
      props={props}
      first={field.name === first}
      values={values}
    />
  );
  const plain = inUse.filter((field) => !field.say);
  const [more, setMore] = useState(false);
  const start = initial(fields, spec.starts?.(props) ?? {}, props);
  const all = inUse.filter((field) => field.say);
  // what is rarely asked for is folded, until it is, or says something
  const isOdd = (field: Field) => field.odd?.(String(values[field.name] ?? ""), props) ?? false;
  const isLent = (field: Field) => field.lent?.(String(values[field.name] ?? ""), props) ?? false;
  const words = all.filter(
    (field) =>
      more || !field.say?.rare || field.wanted?.(props) || values[field.name] !== start[field.name] || isOdd(field),
  );
  const folded = all.length - words.length;
  /** All words, and the focus on the first that was folded: the button that had it is gone. */
  function unfold() {
    const first = all.find((field) => !words.includes(field))?.name;
    flushSync(() => setMore(true));
    form.current?.querySelector<HTMLElement>(`[data-word="${first}"]`)?.focus();
  }
  const timer = spec.timer?.(props, values);
  return (
    <Form
      ref={form}
      validationErrors={errorsOf(inUse, values, props)}
      onSubmit={(event) => {
        event.preventDefault();
        const typed = read().body;
        if (typed) props.onKeep(typed);
      }}
    >
      {spec.asks && (
        <Asks {...(isLoad(props.due) ? { "data-testid": "next-step" } : {})}>{spec.asks(props, values)}</Asks>
      )}
      {plain.filter((field) => field.kind === "ticks").map(draw)}
      <Row>
        {plain.filter(isFigure).map(draw)}
        {timer && <PullTimer seconds={timer.seconds} {...(timer.label ? { label: timer.label } : {})} />}
        {spec.between && props.readBefore && (
          <PullTimer seconds={spec.between(props) * 60} label={t("spec.between_pulls")} silent />
        )}
        <Keep type="submit" $tone="strong" isDisabled={body === null}>
          {t("screens.keep")} <Key_>↵</Key_>
        </Keep>
        {spec.draws?.(props, values)}
        {plain.filter((field) => !isFigure(field) && field.kind !== "ticks").map(draw)}
      </Row>
      {words.length > 0 && (
        <Spoken label={t("spec.as_it_was_read")}>
          <Sentence>
            {words.map((field, index) => (
              <span key={field.name}>
                {field.say?.before && `${field.say.before} `}
                <Word
                  name={field.name}
                  label={field.label}
                  says={wordOf(field, values[field.name], props)}
                  letter={field.say?.letter}
                  odd={isOdd(field) || isLent(field)}
                />
                {field.say?.after && ` ${field.say.after}`}
                {index < words.length - 1 ? ", " : ""}
              </span>
            ))}
            <ToolWord {...props} />
            {folded > 0 && <More count={folded} onPress={unfold} />}
          </Sentence>
          <ToolChoices {...props} />
          {words.map((field) => (
            <Opened key={field.name} field={field} value={values[field.name]} set={set} props={props} />
          ))}
        </Spoken>
      )}
      {props.says && props.says.status !== "counts" && <Doubt role="status">{props.says.text}</Doubt>}
    </Form>
  );
}

/** What a word of the sentence says now. */
function wordOf(field: Field, value: Value, props: FormProps): string {
  const { store } = props;
  if (field.shows) return field.shows(String(value ?? ""), props);
  if (field.kind === "flag") return (field.words ?? NO_YES)[value ? "yes" : "no"];
  if (field.kind === "choice") return smallFirst(field.words[String(value)] ?? "");
  const text = String(value ?? "");
  if (text === "") return field.say?.empty ?? "–";
  return `${text} ${field.kind === "temperature" ? temperatureUnit(store) : isFigure(field) ? (field.unit ?? "") : ""}`.trim();
}

/** The choices or the field of one word. */
function Opened({ field, value, set, props }: PartProps) {
  if (field.kind === "flag")
    return (
      <WordChoices
        name={field.name}
        label={field.label}
        value={value ? "yes" : "no"}
        words={field.words ?? NO_YES}
        onChange={(answer) => set(field.name, answer === "yes")}
      />
    );
  if (field.kind === "choice")
    return (
      <WordChoices
        name={field.name}
        label={field.label}
        value={String(value)}
        words={wordsOf(field, props)}
        onChange={(picked) => set(field.name, picked)}
      />
    );
  if (!isFigure(field)) return null;
  return (
    <WordFigure
      name={field.name}
      label={field.label}
      value={String(value ?? "")}
      onChange={(typed) => set(field.name, typed)}
      unit={field.kind === "temperature" ? temperatureUnit(props.store) : (field.unit ?? "")}
      isWrong={problemOf(field, value, props) !== undefined}
    />
  );
}

function problemOf(field: Field, value: Value, props: FormProps): string | undefined {
  const text = String(value ?? "");
  const parsed = field.kind === "volts" ? voltsOf(text) : numberOf(text);
  if (text.trim() !== "" && parsed === null)
    return field.kind === "volts"
      ? voltsFault(text)
      : t("spec.enter_a_number", {
          t: isFigure(field) && field.placeholder ? t("spec.such_as", { placeholder: field.placeholder }) : "",
        });
  return props.fault(field.name);
}

/** What is wrong with what is typed, by the name of its field, for the form to put there. */
function errorsOf(fields: readonly Field[], values: Values, props: FormProps): Record<string, string> {
  const errors: Record<string, string> = {};
  for (const field of fields) {
    const value = values[field.name];
    if (field.kind === "ticks" || field.kind === "log") continue;
    if (Array.isArray(value)) {
      for (const [place, text] of value.entries()) {
        const isNone = text.trim() !== "" && field.kind === "cells" && gravityOf(text) === null;
        const problem = isNone ? t("screens.enter_a_number") : props.fault(`${field.name}[${place}]`);
        if (problem) errors[`${field.name}[${place}]`] = problem;
      }
    } else if (isFigure(field)) {
      const said = problemOf(field, value, props);
      if (said) errors[field.name] = said;
    }
  }
  return errors;
}
