/** Its rung: gravity and volts of each cell. */
import { Figure } from "../../../kit/parts";
import { BANDS, CELL_STATES } from "../../../kit/words";
import { volts } from "../said";
import { localFigure } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { big, rungForm, type Rung } from "./rung";
import type { Spec } from "../spec";

const SPEC: Spec<"cells"> = {
  asks: ({ limits }) => (
    <>
      {t("Healthy from")} <Figure>{localFigure(limits.gravity_healthy.toFixed(3))}</Figure>{" "}
      {t("after a charge; a cell")} <Figure>{localFigure(limits.gravity_spread.toFixed(3))}</Figure> {t("or")}{" "}
      {volts(limits.cell_suspect_volts)} {t("under its mates is failing or suspect")}
    </>
  ),
  starts: ({ tool }) => ({ _colours: tool?.tool.kind === "hydrometer" && tool.tool.shows === "bands" ? "yes" : "" }),
  fields: [
    {
      kind: "cells",
      name: "specific_gravities",
      label: t("Gravity"),
      placeholder: "1265",
      when: (values) => values["_colours"] !== true,
    },
    {
      kind: "cell choice",
      name: "bands",
      label: t("Colours"),
      words: BANDS,
      when: (values) => values["_colours"] === true,
    },
    { kind: "temperature", name: "temperature_c", label: t("Acid at"), asked: true },
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("After a full charge"),
      words: { yes: t("after a full charge"), no: t("not after a charge") },
      say: { letter: "X" },
    },
    {
      kind: "flag",
      name: "equalised",
      label: t("Equalised before"),
      words: { yes: t("equalised before"), no: t("not equalised") },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "_colours",
      label: t("The hydrometer shows"),
      words: { yes: t("colours"), no: t("figures") },
      say: { before: t("the hydrometer shows"), letter: "O" },
    },
    { kind: "cells", name: "cell_volts", label: t("Cell volts, trained hands only"), placeholder: "2.10" },
    { kind: "cell choice", name: "on_charge", label: t("On charge"), words: CELL_STATES },
  ],
};

export const RUNG: Rung<"cells"> = {
  letter: "G",
  quiet: t("gravity of each, where there are caps"),
  Form: rungForm(SPEC),
  summary: (reading, { says, at }) => {
    const row = reading.specific_gravities?.length ? reading.specific_gravities : (reading.cell_volts ?? []);
    if (says?.figures?.length)
      return big(
        `${Math.min(...says.figures).toFixed(3)}–${Math.max(...says.figures).toFixed(3)}`,
        t(
          "{0} corrected, read {1}–{2}{3}",
          says.reading_text.split(", ")[1] ?? "",
          Math.min(...row).toFixed(3),
          Math.max(...row).toFixed(3),
          at,
        ),
      );
    if (reading.bands?.length) return t("{0} green", reading.bands.filter((band) => band === "green").length);
    if (!row.length)
      return t("{0} still on charge", reading.on_charge?.filter((state) => state === "still").length ?? 0);
    return big(
      `${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}`,
      `${at.trim()}${reading.after_full_charge ? t(" after a full charge") : ""}`,
    );
  },
};
