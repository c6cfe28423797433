/** Money in whole smallest units of its currency, with as many decimals as it has. */
import { DECIMALS } from "../api/currencies";
import { localFigure, locale } from "../language/catalogue";
import { numberOf } from "./units";

const decimalsOf = (currency: string) => DECIMALS[currency] ?? 2;

/** An amount with its sign of money. */
export function money(cents: number, currency: string) {
  const digits = decimalsOf(currency);
  const exactly = { minimumFractionDigits: digits, maximumFractionDigits: digits };
  return (cents / 10 ** digits).toLocaleString(locale(), { style: "currency", currency, ...exactly });
}

/** An amount as it is typed, without its sign. */
export const amountOf = (cents: number, currency: string) => {
  const digits = decimalsOf(currency);
  return localFigure((cents / 10 ** digits).toFixed(digits));
};

/** What an amount as typed is in the smallest units; null where it is none. */
export function centsOf(text: string, currency: string): number | null {
  const value = numberOf(text);
  return value === null ? null : Math.round(value * 10 ** decimalsOf(currency));
}
