/** What several rungs say alike: figures with their unit, the battery's temperature. */
import { Figure, Soft } from "../../kit/parts";
import { shownTemperature, temperatureUnit } from "../../kit/units";
import type { Field, FormProps } from "./fields";

const at = { before: "battery at", empty: "a temperature nobody took", letter: "Q" };
export const temperature: Field = { kind: "temperature", name: "temperature_c", label: "Battery at", say: at };

export const volts = (value: number, digits = 2) => (
  <>
    <Figure>{value.toFixed(digits)}</Figure> <Soft>V</Soft>
  </>
);
export const whole = (value: number, unit: string) => (
  <>
    <Figure>{Math.round(value * 100) / 100}</Figure> <Soft>{unit}</Soft>
  </>
);
export const warmth = ({ limits: { load }, store }: FormProps) =>
  `${Math.round(shownTemperature(load.temperature_c, store))} ${temperatureUnit(store)}`;
