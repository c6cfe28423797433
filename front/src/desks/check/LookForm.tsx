/** Look: pick a sign, touch where it is; corrosion, levels cell by cell, the eye. A hazard is taken back only with a reason. */
import { useEffect, useState } from "react";
import { Form, ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { caseOf } from "../../case/Case";
import { MarkSpot } from "../../case/CasePicture";
import { TOUCH_GAP, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, chipStyle, Entry, Key_ } from "../../kit/parts";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { CORROSION, EYES, LEVELS, SIGNS } from "../../kit/words";
import type { FormProps } from "./fields";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

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
const Toggle = styled(ToggleButton)<{ $hazard: boolean }>`
  ${chipStyle}
  padding: 2px 10px;
  font-size: 16px;
  ${({ $hazard }) => $hazard && "border-style: dashed; border-color: var(--ink);"}
`;
const Levels = styled.div`
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
`;
const LevelButton = styled(Button)`
  padding: 4px 8px;
  font-size: 16px;
  min-width: 84px;
  font-weight: 500;
  text-align: center;
`;

/** Signs that are seen from above until somebody touches another place. */
const ON_TOP = new Set<Sign>(["wet_top", "melted_post", "loose_post", "sticker_gone", "thin_post"]);

const EYE_WORDS = { none: t("No eye"), ...EYES };
const CAPS_WORDS = { no: t("Not looked into"), yes: t("Cell by cell") } as const;
const NEXT_LEVEL = Object.keys(LEVELS) as Schema["Level"][];
const corrosionWord = (kept: Schema["Corrosion"]) =>
  kept === "none" ? t("no corrosion") : t("{0} corrosion", small(CORROSION[kept]));

export function LookForm({ start: kept, battery, size: known, hazards, onType, onKeep }: FormProps) {
  const start = kept as Look | null;
  const size = caseOf(known, battery.nominal_volts);
  const count = (battery.nominal_volts ?? 12) / 2;
  const [marks, setMarks] = useKept<Mark[]>("marks", start?.marks ?? []);
  const [now, setNow] = useState<Sign | null>(null);
  const [corrosion, setCorrosion] = useKept<Schema["Corrosion"]>("corrosion", start?.corrosion ?? "none");
  const [levels, setLevels] = useKept<Schema["Level"][]>("levels", start?.levels ?? []);
  const [eye, setEye] = useKept<Schema["Eye"] | "none">("eye", start?.eye ?? "none");
  const [reason, setReason] = useKept("reason", "");
  const gone = (start?.marks ?? []).filter(
    (mark) => hazards.has(mark.sign) && !marks.some((other) => other.sign === mark.sign),
  );
  const body = { marks, corrosion, levels, eye: eye === "none" ? null : eye, ...(reason.trim() ? { reason } : {}) };
  const touched = marks.length > 0 || corrosion !== "none" || levels.length > 0 || eye !== "none";
  const whole = gone.length === 0 || reason.trim() !== "";
  const says = (touched || gone.length > 0) && whole;
  const said = JSON.stringify(says ? body : null);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is seen changes
  useEffect(() => onType(says ? body : null, false), [said]);

  function choose(keys: Set<string>) {
    const added = [...keys].find((sign) => !marks.some((mark) => mark.sign === sign)) as Sign | undefined;
    setMarks([
      ...marks.filter((mark) => keys.has(mark.sign)),
      ...(added
        ? [{ sign: added, view: ON_TOP.has(added) ? ("top" as const) : ("front" as const), ...apart(marks) }]
        : []),
    ]);
    setNow(added ?? null);
  }

  function place(view: View, across: number, down: number) {
    const moved = now ?? marks.at(-1)?.sign;
    if (moved) setMarks(marks.map((mark) => (mark.sign === moved ? { ...mark, view, across, down } : mark)));
  }

  return (
    <Form
      style={{ display: "grid", gap: 8 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (whole) onKeep(touched || gone.length ? body : { marks: [], corrosion: "none", levels: [], eye: null });
      }}
    >
      <div style={{ display: "flex", gap: 14, flexWrap: "wrap" }}>
        <TouchCase size={size} label={t("The case: touch where the sign is")} onTouch={place}>
          {marks.map((mark) => (
            <MarkSpot key={mark.sign} mark={mark} size={size} gap={TOUCH_GAP} />
          ))}
        </TouchCase>
        <Toggles
          style={{ flex: "1 1 250px", alignContent: "start" }}
          selectionMode="multiple"
          aria-label={t("Signs: pick one, then touch where it is")}
          selectedKeys={new Set(marks.map((mark) => mark.sign))}
          onSelectionChange={(keys) => choose(new Set([...keys].map(String)))}
        >
          {Object.entries(SIGNS).map(([sign, word]) => (
            <Toggle key={sign} id={sign} $hazard={hazards.has(sign as Sign)}>
              {word}
            </Toggle>
          ))}
        </Toggles>
      </div>
      <Spoken label={t("Posts, acid, eye")}>
        <Sentence>
          {t("Posts with")}{" "}
          <Word
            name="corrosion"
            label={t("Corrosion")}
            says={corrosionWord(corrosion)}
            letter="X"
            odd={corrosion === "heavy"}
          />
          {t(", acid")}{" "}
          <Word
            name="levels"
            label={t("Acid level")}
            says={small(CAPS_WORDS[levels.length ? "yes" : "no"])}
            letter="Q"
          />
          , <Word name="eye" label={t("Eye")} says={small(EYE_WORDS[eye])} letter="Y" />
        </Sentence>
        <WordChoices
          name="corrosion"
          label={t("Corrosion")}
          value={corrosion}
          words={CORROSION}
          onChange={setCorrosion}
        />
        <WordChoices
          name="levels"
          label={t("Acid level")}
          value={levels.length ? "yes" : "no"}
          words={CAPS_WORDS}
          onChange={(answer) =>
            setLevels(answer === "yes" ? Array.from({ length: count }, () => "right" as const) : [])
          }
        />
        <WordChoices name="eye" label={t("Eye")} value={eye} words={EYE_WORDS} onChange={setEye} />
      </Spoken>
      {levels.length > 0 && (
        <Levels aria-label={t("Levels from the positive post")}>
          {levels.map((level, cell) => (
            <LevelButton
              key={cell}
              aria-label={t("Cell {0}: {1}, press for the next", cell + 1, LEVELS[level])}
              onPress={() =>
                setLevels(
                  levels.map((old, index) =>
                    index === cell ? (NEXT_LEVEL[(NEXT_LEVEL.indexOf(old) + 1) % NEXT_LEVEL.length] ?? old) : old,
                  ),
                )
              }
            >
              {cell + 1}: {LEVELS[level]}
            </LevelButton>
          ))}
        </Levels>
      )}
      {gone.length > 0 && (
        <Entry
          label={t("Why is “{0}” taken back?", gone.map((mark) => small(SIGNS[mark.sign])).join(", "))}
          value={reason}
          onChange={setReason}
          numeric={false}
          problem={whole ? undefined : t("Say why, such as: it was the battery beside it")}
          name="reason"
        />
      )}
      <Row>
        {touched || gone.length > 0 ? (
          <Button type="submit" $tone="strong" isDisabled={!whole}>
            {t("Keep what is seen")} <Key_>↵</Key_>
          </Button>
        ) : (
          <Button type="submit" $tone="strong" autoFocus>
            {t("Nothing wrong")} <Key_>↵</Key_>
          </Button>
        )}
      </Row>
    </Form>
  );
}

/** Where the next sign is put until somebody touches its place: beside those that are there. */
const apart = (marks: Mark[]) => ({ across: 0.16 + (marks.length % 4) * 0.22, down: marks.length < 4 ? 0.78 : 0.45 });
