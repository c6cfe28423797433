/** A tray or an old battery under the tape. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { Button, Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { numberOf } from "../../kit/units";
import type { Tape } from "./known";
import { PhotoMeasure } from "./PhotoMeasure";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

const OF = { tray: t("The tray"), old: t("The old one") } as const;
const SIDES = { unknown: "?", left: t("Left"), right: t("Right") } as const;
const POSTS = {
  unknown: "?",
  top: t("Top"),
  pencil: t("Thin"),
  side: t("Side"),
  stud: t("Stud"),
  tab: t("Tab"),
} as const;
const LEDGES = { unknown: "?", none: t("None"), long: t("Long sides"), all: t("All round") } as const;

const Three = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 6px;
`;

interface Props {
  tape: Tape;
  store: Schema["StoreView"];
  onChange: (tape: Tape) => void;
  fault: (name: string) => string | undefined;
}

export function TapeFields({ tape, store, onChange, fault }: Props) {
  const { data: known } = useQuery(reference);
  const [photo, setPhoto] = useState(false);
  const rule = known?.rules["match.footprint_tolerance_mm"]?.value as number | undefined;
  const usual =
    rule === undefined ? "" : store.length_unit === "in" ? localFigure((rule / 25.4).toFixed(2)) : String(rule);
  const set = (more: Partial<Tape>) => onChange({ ...tape, ...more });
  const wrong = (text: string, name: string) =>
    text.trim() !== "" && numberOf(text) === null ? t("A number, such as 278") : fault(`measured.${name}_mm`);
  return (
    <>
      <Choice label={t("Measured")} value={tape.of} words={OF} onChange={(of) => set({ of })} />
      {tape.of === "tray" && (
        <div>
          <Button onPress={() => setPhoto(true)}>{t("From a photo")}</Button>
        </div>
      )}
      {photo && (
        <PhotoMeasure
          store={store}
          onClose={() => setPhoto(false)}
          onFound={(found) => {
            setPhoto(false);
            const mmText = (mm: number, up = false) =>
              store.length_unit === "in"
                ? localFigure((mm / 25.4).toFixed(2))
                : String(up ? Math.ceil(mm) : Math.round(mm));
            set({ length: mmText(found.length_mm), width: mmText(found.width_mm), off: mmText(found.off_mm, true) });
          }}
        />
      )}
      <Three>
        {(["length", "width", "height"] as const).map((name, index) => (
          <Entry
            key={name}
            label={{ length: t("Length"), width: t("Width"), height: t("Height") }[name]}
            value={tape[name]}
            onChange={(text) => set({ [name]: text })}
            unit={store.length_unit}
            name={name}
            problem={wrong(tape[name], name)}
            {...(index === 0 ? { autoFocus: true } : {})}
          />
        ))}
        <Entry
          label={t("Off by up to")}
          value={tape.off}
          onChange={(off) => set({ off })}
          unit={store.length_unit}
          name="off"
          placeholder={usual}
          problem={
            tape.off.trim() !== "" && numberOf(tape.off) === null
              ? t("A number, such as 5")
              : fault("measured.tolerance_mm")
          }
        />
      </Three>
      <Choice
        label={t("Positive, the posts towards you")}
        value={tape.side}
        words={SIDES}
        onChange={(side) => set({ side })}
      />
      <Choice label={t("Posts")} value={tape.post ?? "unknown"} words={POSTS} onChange={(post) => set({ post })} />
      <Choice
        label={t("Held by a ledge at its foot")}
        value={tape.ledge ?? "unknown"}
        words={LEDGES}
        onChange={(ledge) => set({ ledge })}
      />
    </>
  );
}
