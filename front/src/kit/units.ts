/** The house's units. Storage is Celsius and millimetres; screens follow the store's setting. */
import type { Schema } from "../api/client";

type Store = Schema["StoreView"];

export const temperatureUnit = (store: Store) => (store.temperature_unit === "F" ? "°F" : "°C");

export const shownTemperature = (celsius: number, store: Store) =>
  store.temperature_unit === "F" ? (celsius * 9) / 5 + 32 : celsius;

export const celsiusOf = (shown: number, store: Store) =>
  store.temperature_unit === "F" ? ((shown - 32) * 5) / 9 : shown;

export const shownLength = (mm: number, store: Store) =>
  store.length_unit === "in" ? `${(mm / 25.4).toFixed(2)} in` : `${mm} mm`;

/** A number as typed, or null. A comma is taken for a point. */
export function numberOf(text: string): number | null {
  const plain = text.trim().replace(",", ".");
  if (!/^-?\d+(\.\d*)?$|^-?\.\d+$/.test(plain)) return null;
  return Number(plain);
}

/** Volts as typed; without a point `1258` is 12.58 and `126` is 12.6, since nobody reads 126 V off a battery. */
export function voltsOf(text: string): number | null {
  const value = numberOf(text);
  if (value === null || /[.,]/.test(text)) return value;
  if (value >= 1000) return value / 100;
  return value >= 100 ? value / 10 : value;
}
