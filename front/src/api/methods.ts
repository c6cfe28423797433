/** Made by bin/client from the methods as the core declares them: nothing is entered here by hand. */
import { t } from "../language/t";
import type { components } from "./schema";

type Schema = components["schemas"];

interface Declared {
  title: string;
  /** What it is read with, as equipment is named; null is eyes and hands. */
  readWith: string | null;
  /** Steps that are done by reading it. */
  openedBy: readonly Schema["StepKey"][];
  /** It puts hands, clamps or current on the battery: closed while that is unsafe. */
  handsOn: boolean;
}

export const METHODS = {
  look: { title: t("look.look"), readWith: null, openedBy: ["look", "look_again"], handsOn: false },
  case_leakage: { title: t("case_leakage.leakage"), readWith: "meter", openedBy: ["clean_top"], handsOn: false },
  rest_volts: { title: t("rest_volts.volts"), readWith: "meter", openedBy: ["measure_after_pull", "measure_again", "measure_volts", "rest_by_hours", "settle"], handsOn: true },
  cells: { title: t("cells.cells_2"), readWith: "hydrometer", openedBy: ["cells"], handsOn: true },
  electronic_tester: { title: t("electronic_tester.tester"), readWith: "tester", openedBy: ["tester", "tester_again"], handsOn: true },
  adjustable_load: { title: t("adjustable_load.pull"), readWith: "adjustable_load", openedBy: ["load_again", "load_test"], handsOn: true },
  fixed_load: { title: t("fixed_load.fixed_load"), readWith: "fixed_load", openedBy: ["fixed_test"], handsOn: true },
  crank: { title: t("crank.crank"), readWith: "meter", openedBy: ["crank_test"], handsOn: true },
  charge_run: { title: t("charge_run.charge"), readWith: "charger", openedBy: ["watch_charge"], handsOn: true },
  stand: { title: t("stand.stand"), readWith: "meter", openedBy: ["stand"], handsOn: true },
  reserve: { title: t("reserve.reserve_2"), readWith: "discharger", openedBy: ["reserve_test"], handsOn: true },
  car: { title: t("car.the_car"), readWith: "meter", openedBy: ["stop_start_list"], handsOn: false },
} as const satisfies Partial<Record<Schema["Kind"], Declared>>;

/** A kind of reading that has a rung. */
export type Method = keyof typeof METHODS;
