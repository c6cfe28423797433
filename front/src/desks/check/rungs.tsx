/** The rungs in the order of work: what each is called, its key, and which one a next step opens. */
import type { ComponentType } from "react";
import type { Reading, Schema } from "../../api/client";
import type { FormProps } from "./fields";
import { LeakageForm } from "./LeakageForm";
import { LookForm } from "./LookForm";
import { SpecForm, type Spec } from "./spec";
import { CHARGE } from "./chargeSpec";
import { CAR, CRANK, FIXED, PULL, RESERVE, STAND } from "./loadSpecs";
import { CELLS, TESTER, VOLTS } from "./specs";
import { t } from "../../language/t";

export type Kind = NonNullable<Reading["kind"]>;

export interface RungOf {
  kind: Kind;
  letter: string;
  title: string;
  quiet: string;
  Form: ComponentType<FormProps>;
}

function fromSpec(spec: Spec): ComponentType<FormProps> {
  return function Described(props: FormProps) {
    return <SpecForm spec={spec} {...props} />;
  };
}

export const RUNGS: RungOf[] = [
  { kind: "look", letter: "L", title: t("Look"), quiet: t("case, posts, smell, level"), Form: LookForm },
  { kind: "case_leakage", letter: "E", title: t("Leakage"), quiet: t("a wet dirty top"), Form: LeakageForm },
  { kind: "rest_volts", letter: "V", title: t("Volts"), quiet: t("settled, at rest"), Form: fromSpec(VOLTS) },
  {
    kind: "cells",
    letter: "G",
    title: t("Cells"),
    quiet: t("gravity of each, where there are caps"),
    Form: fromSpec(CELLS),
  },
  {
    kind: "electronic_tester",
    letter: "T",
    title: t("Tester"),
    quiet: t("electronic, on the lead posts"),
    Form: fromSpec(TESTER),
  },
  {
    kind: "adjustable_load",
    letter: "P",
    title: t("Pull"),
    quiet: t("with the adjustable load"),
    Form: fromSpec(PULL),
  },
  {
    kind: "fixed_load",
    letter: "F",
    title: t("Fixed load"),
    quiet: t("with the small resistor"),
    Form: fromSpec(FIXED),
  },
  { kind: "crank", letter: "K", title: t("Crank"), quiet: t("in the car, engine disabled"), Form: fromSpec(CRANK) },
  {
    kind: "charge_run",
    letter: "H",
    title: t("Charge"),
    quiet: t("amps and volts at the charger"),
    Form: fromSpec(CHARGE),
  },
  {
    kind: "stand",
    letter: "D",
    title: t("Stand"),
    quiet: t("off everything after a full charge"),
    Form: fromSpec(STAND),
  },
  {
    kind: "reserve",
    letter: "⇧D",
    title: t("Reserve"),
    quiet: t("timed discharge from full"),
    Form: fromSpec(RESERVE),
  },
  { kind: "car", letter: "A", title: t("The car"), quiet: t("charging, clamps, drain"), Form: fromSpec(CAR) },
];

/** Which rung a next step opens. */
export const DUE: Record<Schema["StepKey"], Kind | null> = {
  look: "look",
  hold_apart: null,
  measure_volts: "rest_volts",
  measure_again: "rest_volts",
  settle: "rest_volts",
  read_label: null,
  tester: "electronic_tester",
  tester_again: "electronic_tester",
  load_test: "adjustable_load",
  load_again: "adjustable_load",
  clean_posts: null,
  clean_top: "case_leakage",
  top_up: null,
  cells: "cells",
  equalise: null,
  stand: "stand",
  stop_charge: null,
  charge_and_retest: null,
  replace: null,
  retest_later: null,
  give_back: null,
  charge_and_watch: null,
  watch_charge: "charge_run",
  check_charger: null,
  recovery_charge: null,
  measure_after_pull: "rest_volts",
  reserve_test: "reserve",
  fixed_test: "fixed_load",
  crank_test: "crank",
  stop_start_list: "car",
  look_again: "look",
  do_job: null,
};

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
