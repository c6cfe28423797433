/** A message in the language of the page; without one it stands as it is written. */
import i18next from "i18next";
import { localFigure } from "./catalogue";

/** `t("{0} of {1}", 2, 5)`: the message is its own key. Figures are written as the place writes them. */
export function t(message: string, ...values: (string | number | null | undefined)[]): string {
  return i18next.t(message, Object.fromEntries(values.map((value, index) => [String(index), localFigure(value)])));
}
