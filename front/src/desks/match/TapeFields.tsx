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

const OF = { tray: t("tape_fields.the_tray"), old: t("tape_fields.the_old_one") } as const;
const SIDES = { unknown: "?", left: t("tape_fields.left"), right: t("tape_fields.right") } as const;
const POSTS = {
  unknown: "?",
  top: t("tape_fields.top"),
  pencil: t("tape_fields.thin"),
  side: t("tape_fields.side"),
  stud: t("tape_fields.stud"),
  tab: t("screens.tab"),
} as const;
const LEDGES = {
  unknown: "?",
  none: t("screens.none_2"),
  long: t("tape_fields.long_sides"),
  all: t("tape_fields.all_round"),
} as const;

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
    text.trim() !== "" && numberOf(text) === null
      ? t("tape_fields.a_number_such_as_278")
      : fault(`measured.${name}_mm`);
  return (
    <>
      <Choice label={t("screens.measured")} value={tape.of} words={OF} onChange={(of) => set({ of })} />
      {tape.of === "tray" && (
        <div>
          <Button onPress={() => setPhoto(true)}>{t("tape_fields.from_a_photo")}</Button>
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
            label={
              { length: t("tape_fields.length"), width: t("tape_fields.width"), height: t("tape_fields.height") }[name]
            }
            value={tape[name]}
            onChange={(text) => set({ [name]: text })}
            unit={store.length_unit}
            name={name}
            problem={wrong(tape[name], name)}
            {...(index === 0 ? { autoFocus: true } : {})}
          />
        ))}
        <Entry
          label={t("tape_fields.off_by_up_to")}
          value={tape.off}
          onChange={(off) => set({ off })}
          unit={store.length_unit}
          name="off"
          placeholder={usual}
          problem={
            tape.off.trim() !== "" && numberOf(tape.off) === null
              ? t("tape_fields.a_number_such_as_5")
              : fault("measured.tolerance_mm")
          }
        />
      </Three>
      <Choice
        label={t("tape_fields.positive_the_posts_towards_you")}
        value={tape.side}
        words={SIDES}
        onChange={(side) => set({ side })}
      />
      <Choice
        label={t("screens.posts")}
        value={tape.post ?? "unknown"}
        words={POSTS}
        onChange={(post) => set({ post })}
      />
      <Choice
        label={t("tape_fields.held_by_a_ledge_at_its_foot")}
        value={tape.ledge ?? "unknown"}
        words={LEDGES}
        onChange={(ledge) => set({ ledge })}
      />
    </>
  );
}
