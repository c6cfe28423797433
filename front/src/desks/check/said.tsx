/** What several rungs say alike: figures with their unit, the battery's temperature. */
import { Figure, Soft } from "../../kit/parts";
import type { Schema } from "../../api/client";
import { celsiusOf, numberOf, temperatureIn, temperatureUnit } from "../../kit/units";
import type { Figure as FigureField, FormProps, Pick, Values } from "./fields";
import { small, localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

/** Left as it was taken with a reading before, it is lent to this one, not taken with it: plum, and not kept as read. */
const isLent = (value: string, { start, limits }: FormProps) => value === "" && !start && limits.temperature_c !== null;

export const temperature: FigureField & { name: "temperature_c" } = {
  kind: "temperature",
  name: "temperature_c",
  label: t("said.battery_at"),
  say: { before: t("screens.battery_at"), letter: "Q" },
  lent: isLent,
  shows: (value, props) => {
    const { store, limits } = props;
    if (value !== "") return `${value} ${temperatureUnit(store)}`;
    if (!isLent(value, props) || limits.temperature_c === null) return t("screens.a_temperature_nobody_took");
    const celsius = Math.round(temperatureIn(limits.temperature_c, store));
    return t("said.as_last_taken", { temperature: `${celsius} ${temperatureUnit(store)}` });
  },
};

const POSTS = { seen: t("said.as_the_look_found_them"), yes: t("said.clean"), no: t("said.corroded") } as const;

/** Posts: as the look found them until somebody says otherwise; never clean after a look that says they are not. */
export const postsClean = (
  letter?: string,
): Pick & { name: "posts_clean"; out: (value: string) => boolean | null } => ({
  kind: "choice",
  name: "posts_clean",
  label: t("screens.posts"),
  words: POSTS,
  start: "seen",
  out: (value) => (value === "seen" ? null : value === "yes"),
  back: (kept) => (kept == null ? "seen" : kept ? "yes" : "no"),
  say: { before: t("said.posts"), ...(letter ? { letter } : { rare: true as const }) },
  shows: (value, { seen }) => {
    if (value !== "seen") return small(POSTS[value as "yes" | "no"]);
    return seen?.corrosion === "heavy" ? t("said.corroded_as_seen") : t("said.clean_as_seen");
  },
  odd: (value, { seen }) => value === "no" || (seen?.corrosion === "heavy" && value === "seen"),
});

export const volts = (value: number, digits = 2) => (
  <>
    <Figure>{localFigure(value.toFixed(digits))}</Figure> <Soft>V</Soft>
  </>
);
export const whole = (value: number, unit: string) => (
  <>
    <Figure>{localFigure(Math.round(value * 100) / 100)}</Figure> <Soft>{unit}</Soft>
  </>
);
/** The temperature a limit is shown for [C]: the one that is typed, else the battery's own last one. */
export const celsiusTyped = (values: Values, { limits: { load }, store }: FormProps) => {
  const typed = numberOf(String(values["temperature_c"] ?? ""));
  return typed === null ? load.temperature_c : celsiusOf(typed, store);
};
export const warmth = (values: Values, props: FormProps) =>
  `${Math.round(temperatureIn(celsiusTyped(values, props), props.store))} ${temperatureUnit(props.store)}`;

/** Volts a pull must hold at a temperature, on straight lines between the table's points: as the core reckons them. */
export function limitAt(at: number, { celsius, volts: held }: Schema["LoadLimits"]): number {
  const next = celsius.findIndex((warmer) => at <= warmer);
  if (next <= 0) return held[next === 0 ? 0 : held.length - 1] ?? 0;
  const [x0, x1, y0, y1] = [celsius[next - 1], celsius[next], held[next - 1], held[next]] as [
    number,
    number,
    number,
    number,
  ];
  return y0 + ((y1 - y0) * (at - x0)) / (x1 - x0);
}
