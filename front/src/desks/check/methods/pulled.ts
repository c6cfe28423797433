/** What several pulls are asked alike. */
import { NEEDLES } from "../../../kit/words";
import type { Figure, Pick } from "../fields";
import { t } from "../../../language/t";

export const endAmps: Figure & { name: "end_amps" } = {
  kind: "number",
  name: "end_amps",
  label: t("Amps at the end"),
  unit: "A",
  say: { before: t("amps at the end"), empty: t("the same"), rare: true },
};

export const needle: Omit<Pick, "words" | "out"> & { name: "needle"; words: typeof NEEDLES } = {
  kind: "choice",
  name: "needle",
  label: t("The volts"),
  words: NEEDLES,
  start: "held",
  say: { before: t("it"), letter: "X" },
};

export const secondsField = (before: string): Figure & { name: "seconds" } => ({
  kind: "number",
  name: "seconds",
  label: t("Held"),
  unit: "s",
  say: { before, empty: t("seconds nobody counted"), letter: "O" },
});
