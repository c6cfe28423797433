/** What is asked for, to be changed by hand. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { Button, Choice, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Pick } from "../../kit/Pick";
import { numberOf } from "../../kit/units";
import { CHEMISTRIES } from "../../kit/words";

import { t } from "../../language/t";
import styled from "styled-components";
import { wordOf } from "../../language/speak";

const AskedForm = styled.form`
  display: grid;
  gap: 11px;
`;
const Choices = styled.div`
  display: flex;
  gap: 18px;
`;

const CHEMISTRY_CHOICE = CHEMISTRIES;
const PLAIN = {
  nominal_volts: 12,
  cca_scale: "CCA",
  spare_cable_mm: 0,
  flooded_stays: false,
  use: "private",
} as const;
const YES_NO = { no: t("screens.no"), yes: t("screens.yes") } as const;

/** The requirement, to be changed by hand. */
export function Asked({
  start,
  onAsk,
}: {
  start: Schema["Requirement"] | null;
  onAsk: (asked: Schema["Requirement"]) => void;
}) {
  const { data: known } = useQuery(reference);
  const [group, setGroup] = useState<string | null>(start?.group_code ?? null);
  const [cca, setCca] = useState(start ? String(start.min_cca_amps) : "");
  const [chemistry, setChemistry] = useState<Schema["Chemistry"]>(start?.chemistry ?? "flooded");
  const [stopStart, setStopStart] = useState(start?.stop_start ?? false);
  const [vent, setVent] = useState(start?.vent_tube ?? false);
  const amps = cca.trim() === "" ? 0 : numberOf(cca);
  const ready = group !== null && amps !== null;
  return (
    <AskedForm
      onSubmit={(event) => {
        event.preventDefault();
        if (ready)
          onAsk({
            ...PLAIN,
            // what the sources say beside it stays as it is
            ...start,
            measured: null,
            group_code: group,
            also_codes: start?.group_code === group ? (start.also_codes ?? []) : [],
            min_cca_amps: amps,
            chemistry,
            stop_start: stopStart,
            vent_tube: vent,
            no_agm: start?.no_agm ?? false,
            source: "typed at the counter",
          });
      }}
    >
      <Pick
        label={t("screens.group_or_box_size")}
        idIsName
        value={group}
        onChange={setGroup}
        options={(known?.sizes ?? []).map((one) => ({
          id: one.code,
          name: one.code,
          note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${wordOf(one.positive_side)}`,
        }))}
        placeholder={t("screens.48_24f_ln3")}
      />
      <Entry
        label={t("asked.rating_at_least")}
        value={cca}
        onChange={setCca}
        unit="CCA"
        problem={amps === null ? t("asked.enter_amps_such_as_680") : undefined}
      />
      <Choice
        label={t("asked.chemistry_at_least")}
        value={chemistry}
        words={CHEMISTRY_CHOICE}
        onChange={setChemistry}
      />
      <Choices>
        <Choice
          label={t("screens.stop_start_2")}
          value={stopStart ? "yes" : "no"}
          words={YES_NO}
          onChange={(answer) => setStopStart(answer === "yes")}
        />
        <Choice
          label={t("screens.vent_tube")}
          value={vent ? "yes" : "no"}
          words={YES_NO}
          onChange={(answer) => setVent(answer === "yes")}
        />
      </Choices>
      {start?.no_agm && <Soft>{t("asked.no_agm_hot_bay_or_uncontrolled_regulator")}</Soft>}
      <Button type="submit" $tone="strong" isDisabled={!ready}>
        {t("asked.match_this")}
      </Button>
    </AskedForm>
  );
}
