/** What a rung is made of: one a method, in a file of its own. */
import type { ComponentType, ReactNode } from "react";
import type { Reading, Schema } from "../../../api/client";
import type { Method } from "../../../api/methods";
import { Figure, Soft } from "../../../kit/parts";
import { localFigure } from "../../../language/catalogue";
import type { FormProps } from "../fields";
import { SpecForm, type Spec } from "../spec";

/** A reading of one kind. */
export type ReadingOf<K extends Method> = Extract<Reading, { kind?: K }>;

/** What a summary may say besides the reading's own figures. */
export interface Beside {
  battery: Schema["Battery"];
  /** What the core says of it. */
  says: Schema["Finding"] | undefined;
  /** " at 19 °C", or nothing. */
  at: string;
}

export interface Rung<K extends Method> {
  /** Its key on the Check desk. */
  letter: string;
  /** What it is about, while it is neither due nor done. */
  quiet: string;
  Form: ComponentType<FormProps>;
  /** What was read, in one line. */
  summary: (reading: ReadingOf<K>, beside: Beside) => ReactNode;
}

/** The form that a description makes. */
export function rungForm<K extends Method>(spec: Spec<K>): ComponentType<FormProps> {
  return function Described(props: FormProps) {
    return <SpecForm spec={spec} {...props} />;
  };
}

/** A figure in large type, and what belongs to it. */
export const big = (value: string, rest: ReactNode) => (
  <>
    <Figure>{localFigure(value)}</Figure> <Soft>{rest}</Soft>
  </>
);
