/** A charger's modes: what each is called, the volts it holds, which types it is for, what it does besides. */
import styled from "styled-components";
import { Button, Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Some } from "./Some";
import { CHEMISTRIES, DOES, type ModeTyped } from "./tool";
import { t } from "../../language/t";

const AtStart = styled(Button)`
  justify-self: start;
`;

const Mode = styled.fieldset`
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 8px 12px 12px;
  border: 1px solid var(--line);
  border-radius: 10px;
  min-width: 0;
  legend {
    font-weight: 650;
    padding: 0 6px;
  }
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 130px auto;
  gap: 8px;
  align-items: end;
`;

interface Props {
  modes: ModeTyped[];
  onChange: (modes: ModeTyped[]) => void;
  fault: (path: string) => string | undefined;
}

export function Modes({ modes, onChange, fault }: Props) {
  const change = (place: number, next: Partial<ModeTyped>) =>
    onChange(modes.map((mode, index) => (index === place ? { ...mode, ...next } : mode)));
  return (
    <>
      {modes.map((mode, place) => (
        <Mode key={place}>
          <legend>{t("modes.mode", { place: place + 1 })}</legend>
          <Pair>
            <Entry
              label={t("modes.called")}
              value={mode.name}
              onChange={(name) => change(place, { name })}
              numeric={false}
              name={`modes[${place}].name`}
              problem={fault(`tool.modes[${place}].name`)}
            />
            <Entry
              label={t("modes.holds")}
              value={mode.volts}
              onChange={(volts) => change(place, { volts })}
              unit="V"
              name={`modes[${place}].volts`}
              problem={fault(`tool.modes[${place}].volts`)}
            />
            <Button
              type="button"
              onPress={() => onChange(modes.filter((_, index) => index !== place))}
              isDisabled={modes.length === 1}
              aria-label={t("modes.take_mode_out", { place: place + 1 })}
            >
              ✕
            </Button>
          </Pair>
          <Some
            label={t("modes.for_where_it_is_not_for_all")}
            words={CHEMISTRIES}
            value={mode.chemistries}
            onChange={(chemistries) => change(place, { chemistries })}
          />
          <Choice
            label={t("modes.it_is")}
            value={mode.does}
            words={DOES}
            onChange={(does) => change(place, { does })}
          />
        </Mode>
      ))}
      <AtStart
        type="button"
        onPress={() => onChange([...modes, { name: "", volts: "", chemistries: [], does: "ordinary" }])}
      >
        {t("modes.another_mode")}
      </AtStart>
    </>
  );
}
