/** The rungs in the order of work, and which one a next step opens. */
import type { ReactNode } from "react";
import type { Reading, Schema } from "../../api/client";
import { METHODS, type Method } from "../../api/methods";
import { temperatureIn, temperatureUnit } from "../../kit/units";
import { t } from "../../language/t";
import { RUNG as LOOK } from "./methods/look";
import { RUNG as CASE_LEAKAGE } from "./methods/case_leakage";
import { RUNG as REST_VOLTS } from "./methods/rest_volts";
import { RUNG as CELLS } from "./methods/cells";
import { RUNG as ELECTRONIC_TESTER } from "./methods/electronic_tester";
import { RUNG as ADJUSTABLE_LOAD } from "./methods/adjustable_load";
import { RUNG as FIXED_LOAD } from "./methods/fixed_load";
import { RUNG as CRANK } from "./methods/crank";
import { RUNG as CHARGE_RUN } from "./methods/charge_run";
import { RUNG as STAND } from "./methods/stand";
import { RUNG as RESERVE } from "./methods/reserve";
import { RUNG as CAR } from "./methods/car";
import type { Rung } from "./methods/rung";

export type Kind = Method;

/** The rung a reading belongs to; what is taken back has none of its own. */
export const kindOf = ({ kind }: Pick<Reading, "kind">): Kind => (!kind || kind === "withdrawal" ? "look" : kind);

/** Every method has its rung: one that lacks it does not compile. */
const BY_METHOD: { [K in Method]: Rung<K> } = {
  look: LOOK,
  case_leakage: CASE_LEAKAGE,
  rest_volts: REST_VOLTS,
  cells: CELLS,
  electronic_tester: ELECTRONIC_TESTER,
  adjustable_load: ADJUSTABLE_LOAD,
  fixed_load: FIXED_LOAD,
  crank: CRANK,
  charge_run: CHARGE_RUN,
  stand: STAND,
  reserve: RESERVE,
  car: CAR,
};

export interface RungOf extends Pick<Rung<Method>, "letter" | "quiet" | "Form"> {
  kind: Method;
  title: string;
}

export const RUNGS: RungOf[] = (Object.keys(BY_METHOD) as Method[]).map((kind) => {
  const { letter, quiet, Form } = BY_METHOD[kind];
  return { kind, title: METHODS[kind].title, letter, quiet, Form };
});

const OPENS = new Map<Schema["StepKey"], Method>(
  RUNGS.flatMap(({ kind }) => METHODS[kind].openedBy.map((key): [Schema["StepKey"], Method] => [key, kind])),
);

/** Which rung a next step opens. */
export const dueOf = (step: Schema["StepKey"]): Method | null => OPENS.get(step) ?? null;

/** What was read, in one line. */
export function summaryOf(
  reading: Reading,
  battery: Schema["Battery"],
  store: Schema["StoreView"],
  says?: Schema["Finding"],
): ReactNode {
  if (reading.kind === "withdrawal") return t("rungs.an_entry_taken_back");
  const at =
    "temperature_c" in reading && reading.temperature_c != null
      ? t("rungs.at", {
          temperature_c: Math.round(temperatureIn(reading.temperature_c, store)),
          store: temperatureUnit(store),
        })
      : "";
  const { summary } = BY_METHOD[kindOf(reading)] as Rung<Method>;
  return summary(reading, { battery, says, at });
}

/**
 * Which rung takes the next keys while the server has not said so: from the look to the volts, from the volts to what this
 * house decides by, unless they are so low that it is charged first.
 */
export function likelyNext(
  reading: Reading,
  view: Schema["CheckView"],
  deciding: Kind[],
  done: (kind: Kind) => boolean,
): Kind | null {
  if (reading.kind === "look") return (reading.marks ?? []).length > 0 || done("rest_volts") ? null : "rest_volts";
  if (reading.kind !== "rest_volts" || reading.volts < view.limits.recharge_line_volts) return null;
  return deciding.find((kind) => !done(kind)) ?? null;
}
