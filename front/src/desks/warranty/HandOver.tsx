/** The claim and the new battery in one act: its volts and serial as it goes over the counter, or the claim alone. */
import { useState } from "react";
import type { ApiProblem, Schema } from "../../api/client";
import { Entry } from "../../kit/Entry";
import { Fault } from "../../kit/formParts";
import { Beside, FormStack } from "../../kit/layout";
import { Button, Choice } from "../../kit/parts";
import { voltsFault, voltsOf } from "../../kit/units";
import { t } from "../../language/t";
import styled from "styled-components";

const Read = styled.div`
  display: grid;
  grid-template-columns: 120px minmax(120px, 220px) max-content;
  gap: 10px;
  align-items: end;
  @media (max-width: 599px) {
    grid-template-columns: 1fr 1fr;
  }
`;

type Given = Schema["HandOver"];
const WHERE = { here: t("sell_form.fitted_here"), away: t("sell_form.taken_along") } as const;
const FIELDS = ["volts", "serial"] as const;

interface Props {
  /** The piece that goes; null takes the oldest that may be sold. */
  pieceId: number | null;
  isBusy: boolean;
  problem: ApiProblem | null;
  write: (handOver: Given | null) => void;
}

export function HandOver({ pieceId, isBusy, problem, write }: Props) {
  const [volts, setVolts] = useState("");
  const [serial, setSerial] = useState("");
  const [where, setWhere] = useState<keyof typeof WHERE>("here");
  const of = (field: (typeof FIELDS)[number]) => problem?.of(`hand_over.${field}`);
  const elsewhere = problem?.errors.filter((one) => !FIELDS.some((field) => one.path === `hand_over.${field}`)) ?? [];
  const isEnough = voltsOf(volts) !== null && serial.trim() !== "";
  function hand(isRight: boolean) {
    write({
      piece_id: pieceId,
      volts: voltsOf(volts) ?? 0,
      serial,
      serial_is_right: isRight,
      fitted_here: where === "here",
    });
  }
  return (
    <FormStack
      aria-label={t("warranty_desk.hand_it_over_with_the_claim")}
      onSubmit={(event) => {
        event.preventDefault();
        if (isEnough) hand(false);
      }}
    >
      <Read>
        <Entry
          label={t("screens.volts_now")}
          value={volts}
          onChange={setVolts}
          unit="V"
          name="volts"
          problem={voltsFault(volts) ?? of("volts")}
        />
        <Entry
          label={t("sell_form.its_serial")}
          value={serial}
          onChange={setSerial}
          numeric={false}
          name="serial"
          problem={of("serial")}
        />
        <Choice label={t("sell_form.where")} hideLabel value={where} words={WHERE} onChange={setWhere} />
      </Read>
      {elsewhere.map((one) => (
        <Fault key={one.message} role="alert">
          {one.message}
        </Fault>
      ))}
      <Beside $gap={8}>
        <Button type="submit" $tone="strong" isDisabled={isBusy || !isEnough}>
          {t("warranty_desk.write_the_claim_and_hand_it_over")}
        </Button>
        {of("serial") && <Button onPress={() => hand(true)}>{t("screens.the_serial_is_right")}</Button>}
        <Button isDisabled={isBusy} onPress={() => write(null)}>
          {t("warranty_desk.write_the_claim_alone")}
        </Button>
      </Beside>
    </FormStack>
  );
}
