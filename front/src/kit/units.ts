/** The house's units. Storage is Celsius and millimetres; screens follow the store's setting. */
import type { Schema } from "../api/client";
import { t } from "../language/t";
import { localFigure } from "../language/catalogue";

type Store = Schema["StoreView"];

export const temperatureUnit = (store: Store) => (store.temperature_unit === "F" ? "°F" : "°C");

export const temperatureIn = (celsius: number, store: Store) =>
  store.temperature_unit === "F" ? (celsius * 9) / 5 + 32 : celsius;

export const celsiusOf = (shown: number, store: Store) =>
  store.temperature_unit === "F" ? ((shown - 32) * 5) / 9 : shown;

export const lengthText = (mm: number, store: Store) =>
  store.length_unit === "in" ? t("units.in", { mm: localFigure((mm / 25.4).toFixed(2)) }) : t("units.mm", { mm });

/** A number as typed, or null. A comma is taken for a point. */
export function numberOf(text: string): number | null {
  const plain = text.trim().replace(",", ".");
  if (!/^-?\d+(\.\d*)?$|^-?\.\d+$/.test(plain)) return null;
  return Number(plain);
}

/** Whether a figure ends in its point: more of it is on its way. */
export const endsInPoint = (text: string) => /[.,]\s*$/.test(text);

/** Volts as typed; four figures without a point, `1258`, are 12.58. Three may be a tag, or 12.6 without its point: asked. */
export function voltsOf(text: string): number | null {
  const value = numberOf(text);
  if (value === null || /[.,]/.test(text) || value < 100) return value;
  return value >= 1000 ? value / 100 : null;
}

/** What is wrong with volts as typed, and what to enter; undefined when they can be read. */
export function voltsFault(text: string): string | undefined {
  if (text.trim() === "" || voltsOf(text) !== null) return undefined;
  const value = numberOf(text);
  return value === null
    ? t("units.enter_volts_such_as_12_58")
    : t("units.did_you_mean_v_type_the_point_a_tag_goes", { value: localFigure((value / 10).toFixed(1)) });
}
