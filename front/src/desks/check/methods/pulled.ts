/** What several pulls are asked alike. */
import { NEEDLES } from "../../../kit/words";
import type { Figure, Pick } from "../fields";
import { t } from "../../../language/t";

export const endAmps: Figure & { name: "end_amps" } = {
  kind: "number",
  name: "end_amps",
  label: t("pulled.amps_at_the_end"),
  unit: "A",
  say: { before: t("pulled.amps_at_the_end_2"), empty: t("screens.the_same"), rare: true },
};

export const needle: Omit<Pick, "words" | "out"> & { name: "needle"; words: typeof NEEDLES } = {
  kind: "choice",
  name: "needle",
  label: t("pulled.the_volts"),
  words: NEEDLES,
  start: "held",
  say: { before: t("screens.it"), letter: "X" },
};

export const secondsField = (before: string): Figure & { name: "seconds" } => ({
  kind: "number",
  name: "seconds",
  label: t("screens.held"),
  unit: "s",
  say: { before, empty: t("pulled.seconds_nobody_counted"), letter: "O" },
});
