/** A day's opening hours as they are typed and shown. */
import type { Schema } from "../../api/client";
import { clockOf } from "../../kit/words";
import { t } from "../../language/t";

export type Hours = Schema["OpeningHours"];

export const hoursSaid = (day: Hours["days"][number]) =>
  !day
    ? ""
    : day.pause_from && day.pause_until
      ? `${day.opens} ${day.pause_from}, ${day.pause_until} ${day.closes}`
      : `${day.opens} ${day.closes}`;

/** "8 17:30" or "08:30 to 17:30", with a pause "8 12, 13 17:30"; empty is closed; undefined is none. */
export function dayOfWords(text: string): Hours["days"][number] | undefined {
  const words = text.trim();
  const [first = "", second, more] = words.split(/[,;]/);
  if (second !== undefined) {
    const [before, after] = [dayOfWords(first), dayOfWords(second)];
    if (!before || !after || more !== undefined) return undefined;
    return { opens: before.opens, closes: after.closes, pause_from: before.closes, pause_until: after.opens };
  }
  if (words === "" || ["closed", t("screens.closed").toLowerCase()].includes(words.toLowerCase())) return null;
  const match = /^(\S+?)(?:\s*\p{L}+\s*|\s*[-–]\s*|\s+)(\S+)$/u.exec(words); // a word of any language between
  const [opens, closes] = [clockOf(match?.[1] ?? ""), clockOf(match?.[2] ?? "")];
  if (!opens || !closes) return undefined;
  const text_ = ({ hour, minute }: { hour: number; minute: number }) =>
    `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
  return { opens: text_(opens), closes: text_(closes), pause_from: null, pause_until: null };
}

export const HOURS_FAULT = t("hours.enter_from_and_until_such_as_8_30_17_30");
