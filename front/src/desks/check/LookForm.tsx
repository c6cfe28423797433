/** Look: pick a sign, touch where it is; corrosion, levels cell by cell, the eye. */
import { useEffect, useState } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { UNKNOWN_SIZE } from "../../case/Case";
import { MarkSpot } from "../../case/CasePicture";
import { TOUCH_GAP, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, chipStyle, Choice } from "../../kit/parts";
import { CORROSION, EYES, LEVELS, SIGNS } from "../../kit/words";
import type { FormProps } from "./spec";

type Look = Schema["Look"];
type Mark = Schema["Mark"];
type Sign = Schema["Sign"];

const Row = styled.div`
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
  align-items: flex-start;
`;
const Toggles = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;
const Toggle = styled(ToggleButton)`
  ${chipStyle} padding: 4px 10px;
  font-size: 15px;
`;
const Levels = styled.div`
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
`;
const LevelButton = styled(Button)`
  padding: 4px 8px;
  font-size: 14px;
  min-width: 84px;
  font-weight: 500;
  text-align: center;
`;

/** Signs that are seen from above until somebody touches another place. */
const ON_TOP = new Set<Sign>(["wet_top", "melted_post", "loose_post", "sticker_gone"]);

const EYE_WORDS = { none: "No eye", ...EYES };
const CAPS_WORDS = { no: "Not looked at", yes: "Cell by cell" } as const;
const NEXT_LEVEL = Object.keys(LEVELS) as Schema["Level"][];

export function LookForm({ start: kept, battery, size: known, onType, onKeep }: FormProps) {
  const start = kept as Look | null;
  const size = known ?? UNKNOWN_SIZE;
  const count = (battery.nominal_volts ?? 12) / 2;
  const [marks, setMarks] = useKept<Mark[]>("marks", start?.marks ?? []);
  const [now, setNow] = useState<Sign | null>(null);
  const [corrosion, setCorrosion] = useKept<Schema["Corrosion"]>("corrosion", start?.corrosion ?? "none");
  const [levels, setLevels] = useKept<Schema["Level"][]>("levels", start?.levels ?? []);
  const [eye, setEye] = useKept<Schema["Eye"] | "none">("eye", start?.eye ?? "none");
  const body = { marks, corrosion, levels, eye: eye === "none" ? null : eye };
  const touched = marks.length > 0 || corrosion !== "none" || levels.length > 0 || eye !== "none";
  const said = JSON.stringify(touched ? body : null);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is seen changes
  useEffect(() => onType(touched ? body : null), [said]);

  function choose(keys: Set<string>) {
    const added = [...keys].find((sign) => !marks.some((mark) => mark.sign === sign)) as Sign | undefined;
    setMarks([
      ...marks.filter((mark) => keys.has(mark.sign)),
      ...(added
        ? [{ sign: added, view: ON_TOP.has(added) ? ("top" as const) : ("front" as const), across: 0.16, down: 0.8 }]
        : []),
    ]);
    setNow(added ?? null);
  }

  function place(view: View, across: number, down: number) {
    const moved = now ?? marks.at(-1)?.sign;
    if (moved) setMarks(marks.map((mark) => (mark.sign === moved ? { ...mark, view, across, down } : mark)));
  }

  return (
    <>
      <Row>
        <Button $tone="strong" onPress={() => onKeep({ marks: [], corrosion: "none", levels: [], eye: null })}>
          Nothing wrong
        </Button>
        {touched && (
          <Button $tone="copper" onPress={() => onKeep(body)}>
            Keep what is seen
          </Button>
        )}
      </Row>
      <div style={{ display: "flex", gap: 14 }}>
        <TouchCase size={size} label="The case: touch where the sign is" onTouch={place}>
          {marks.map((mark) => (
            <MarkSpot key={mark.sign} mark={mark} size={size} gap={TOUCH_GAP} />
          ))}
        </TouchCase>
        <div style={{ display: "grid", gap: 10, alignContent: "start" }}>
          <Toggles
            selectionMode="multiple"
            aria-label="Signs: pick one, then touch where it is"
            selectedKeys={new Set(marks.map((mark) => mark.sign))}
            onSelectionChange={(keys) => choose(new Set([...keys].map(String)))}
          >
            {Object.entries(SIGNS).map(([sign, word]) => (
              <Toggle key={sign} id={sign}>
                {word}
              </Toggle>
            ))}
          </Toggles>
        </div>
      </div>
      <Row>
        <Choice label="Corrosion" value={corrosion} words={CORROSION} onChange={setCorrosion} />
        <Choice label="Eye" value={eye} words={EYE_WORDS} onChange={setEye} />
        <Choice
          label="Acid level"
          value={levels.length ? "yes" : "no"}
          words={CAPS_WORDS}
          onChange={(answer) =>
            setLevels(answer === "yes" ? Array.from({ length: count }, () => "right" as const) : [])
          }
        />
      </Row>
      {levels.length > 0 && (
        <Levels aria-label="Levels from the positive post">
          {levels.map((level, place) => (
            <LevelButton
              key={place}
              aria-label={`Cell ${place + 1}: ${LEVELS[level]}, press for the next`}
              onPress={() =>
                setLevels(
                  levels.map((old, index) =>
                    index === place ? (NEXT_LEVEL[(NEXT_LEVEL.indexOf(old) + 1) % NEXT_LEVEL.length] ?? old) : old,
                  ),
                )
              }
            >
              {place + 1}: {LEVELS[level]}
            </LevelButton>
          ))}
        </Levels>
      )}
    </>
  );
}
