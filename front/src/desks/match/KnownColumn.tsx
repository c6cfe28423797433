/** Everything one may know, each its own field: the car, a code, the tape, the owner's words; or all of it said by hand. */
import { useState } from "react";
import { ToggleButton, ToggleButtonGroup, type Key } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button, chipStyle, labelStyle, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Asked } from "./Asked";
import { CarSearch } from "./CarSearch";
import type { Known } from "./known";
import { TapeFields } from "./TapeFields";
import { t } from "../../language/t";

const OtherCar = styled(Button)`
  margin-top: 4px;
`;
const Ways = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
`;

const NEEDS: [Schema["Need"], string][] = [
  ["winter", t("known_column.hard_winters")],
  ["consumers", t("known_column.many_consumers")],
  ["standing", t("known_column.stands_long")],
  ["taxi", t("screens.taxi")],
];
const Chips = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const Chip = styled(ToggleButton)`
  ${chipStyle}
`;
const Legend = styled.span`
  ${labelStyle}
`;

interface Props {
  tag: number | null;
  known: Known;
  tell: (more: Partial<Known>) => void;
  afresh: () => void;
  found: Schema["MatchView"] | undefined;
  fault: (path: string) => string | undefined;
  codeSays: string | undefined;
  store: Schema["StoreView"];
}

export function KnownColumn({ tag, known, tell, afresh, found, fault, codeSays, store }: Props) {
  const [byHand, setByHand] = useState(known.typed !== null);
  const car = known.cars.find((one) => one.id === known.vehicleId);
  const requirement = found?.requirement ?? null;
  if (byHand)
    return (
      <>
        <Asked start={known.typed ?? requirement} onAsk={(typed) => tell({ typed })} />
        <Button
          onPress={() => {
            setByHand(false);
            tell({ typed: null });
          }}
        >
          {tag === null ? t("known_column.back_to_what_is_known") : t("known_column.back_to_what_asks_for", { tag })}
        </Button>
      </>
    );
  return (
    <>
      {known.cars.length > 0 && known.cars[0] ? (
        <div>
          <Legend>{t("known_column.car")}</Legend>
          <b>
            {known.cars[0].make} {known.cars[0].model} {car?.variant}
          </b>
          <br />
          <OtherCar onPress={() => tell({ cars: [], vehicleId: null })}>{t("known_column.another_car")}</OtherCar>
        </div>
      ) : (
        <CarSearch
          text={known.carText}
          onType={(carText) => tell({ carText })}
          onPick={(cars) => tell({ cars, vehicleId: cars.length === 1 ? (cars[0]?.id ?? null) : null })}
          autoFocus={tag === null}
        />
      )}
      <div>
        <Entry
          label={t("known_column.size_or_a_code_on_the_label")}
          value={known.code}
          onChange={(code) => tell({ code })}
          numeric={false}
          placeholder="48, 560 408 054, 55D23L"
          name="code"
          problem={fault("code")}
        />
        {codeSays && <Soft>{codeSays}</Soft>}
      </div>
      {known.tapeOpen ? (
        <TapeFields tape={known.tape} store={store} onChange={(tape) => tell({ tape })} fault={fault} />
      ) : (
        <Button onPress={() => tell({ tapeOpen: true })}>{t("known_column.measure_tray_or_old_one")}</Button>
      )}
      <div>
        <Legend>{t("known_column.the_owner_says")}</Legend>
        <Chips
          selectionMode="multiple"
          aria-label={t("known_column.the_owner_says")}
          selectedKeys={known.needs}
          onSelectionChange={(keys: Set<Key>) => tell({ needs: [...keys] as Schema["Need"][] })}
        >
          {NEEDS.map(([need, words]) => (
            <Chip key={need} id={need}>
              {words}
            </Chip>
          ))}
        </Chips>
      </div>
      {known.tapeOpen && (
        <Entry
          label={t("known_column.the_cables_reach_further_by")}
          value={known.cable}
          onChange={(cable) => tell({ cable })}
          unit={store.length_unit}
          name="spare_cable"
          placeholder="0"
        />
      )}
      <Ways>
        <Button onPress={() => setByHand(true)}>{t("known_column.say_it_by_hand")}</Button>
        {(known.cars.length > 0 || known.code !== "" || known.tapeOpen || known.needs.length > 0) && (
          <Button onPress={afresh}>{t("known_column.start_afresh")}</Button>
        )}
      </Ways>
    </>
  );
}
