/** A message by its key in the language of the page; numbers are written as the place writes them, text stands as it is. */
import i18next from "i18next";
import { localFigure } from "./catalogue";
import type { Messages } from "./english";

type Figure = string | number | null | undefined;
type Figures<Key extends keyof Messages> = [Messages[Key]] extends [never] ? [] : [Record<Messages[Key], Figure>];

/** `t("records.page_of", { page: 2, pages: 5 })`; a message that is not written in the language stands in English. */
export function t<Key extends keyof Messages>(key: Key, ...[figures]: Figures<Key>): string {
  const texts = Object.fromEntries(
    Object.entries<Figure>(figures ?? {}).map(([name, value]) => [
      name,
      typeof value === "number" ? localFigure(value) : (value ?? ""),
    ]),
  );
  const count = (figures as Record<string, Figure> | undefined)?.["count"];
  const values: Record<string, string | number> = typeof count === "number" ? { ...texts, count } : texts;
  return i18next.t(key, values);
}
