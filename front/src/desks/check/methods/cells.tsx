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
      {t("cells.healthy_from_2")} <Figure>{localFigure(limits.gravity_healthy.toFixed(3))}</Figure>{" "}
      {t("cells.after_a_charge_a_cell")} <Figure>{localFigure(limits.gravity_spread.toFixed(3))}</Figure>{" "}
      {t("screens.or")} {volts(limits.cell_suspect_volts)} {t("cells.under_its_mates_is_failing_or_suspect")}
    </>
  ),
  starts: ({ tool }) => ({ _colours: tool?.tool.kind === "hydrometer" && tool.tool.shows === "bands" ? "yes" : "" }),
  fields: [
    {
      kind: "cells",
      name: "specific_gravities",
      label: t("cells.gravity_3"),
      placeholder: "1265",
      digits: 3,
      usual: (_, { limits }) => limits.cells.gravities,
      when: (values) => values["_colours"] !== true,
    },
    {
      kind: "cell choice",
      name: "bands",
      label: t("cells.colours"),
      words: BANDS,
      when: (values) => values["_colours"] === true,
    },
    { kind: "temperature", name: "temperature_c", label: t("cells.acid_at") },
    {
      kind: "flag",
      name: "after_full_charge",
      label: t("screens.after_a_full_charge"),
      words: { yes: t("screens.after_a_full_charge_2"), no: t("screens.not_after_a_charge") },
      say: { letter: "X" },
    },
    {
      kind: "flag",
      name: "equalised",
      label: t("cells.equalised_before"),
      words: { yes: t("cells.equalised_before_2"), no: t("cells.not_equalised") },
      say: { letter: "Y" },
    },
    {
      kind: "flag",
      name: "_colours",
      label: t("cells.the_hydrometer_shows"),
      words: { yes: t("screens.colours"), no: t("screens.figures") },
      say: { before: t("cells.the_hydrometer_shows_2"), letter: "O" },
    },
    {
      kind: "cells",
      name: "cell_volts",
      label: t("cells.cell_volts_trained_hands_only"),
      placeholder: "2.10",
      digits: 2,
      usual: ({ on_charge: states }, { limits }) =>
        Array.isArray(states) && states.some((state) => state !== "") ? null : limits.cells.volts,
    },
    { kind: "cell choice", name: "on_charge", label: t("screens.on_charge"), words: CELL_STATES },
  ],
};

export const RUNG: Rung<"cells"> = {
  letter: "G",
  quiet: t("cells.gravity_of_each_where_there_are_caps"),
  Form: rungForm(SPEC),
  summary: (reading, { says, at }) => {
    const row = reading.specific_gravities?.length ? reading.specific_gravities : (reading.cell_volts ?? []);
    if (says?.figures?.length)
      return big(
        `${Math.min(...says.figures).toFixed(3)}–${Math.max(...says.figures).toFixed(3)}`,
        t("cells.corrected_read", {
          split: says.reading_text.split(", ")[1] ?? "",
          min: localFigure(Math.min(...row).toFixed(3)),
          max: localFigure(Math.max(...row).toFixed(3)),
          at,
        }),
      );
    if (reading.bands?.length)
      return t("cells.green", { count: reading.bands.filter((band) => band === "green").length });
    if (!row.length)
      return t("cells.still_on_charge", { count: reading.on_charge?.filter((state) => state === "still").length ?? 0 });
    return big(
      `${Math.min(...row).toFixed(3)}–${Math.max(...row).toFixed(3)}`,
      `${at.trim()}${reading.after_full_charge ? t("screens.after_a_full_charge_3") : ""}`,
    );
  },
};
