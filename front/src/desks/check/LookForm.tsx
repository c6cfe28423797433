/** Look: pick a sign, touch where it is; corrosion, levels cell by cell, the eye. A hazard is taken back only with a reason. */
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { caseOf } from "../../case/Case";
import { MarkSpot } from "../../case/CasePicture";
import { TOUCH_GAP, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, Key_ } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { CORROSION, EYES, LEVELS, SIGNS } from "../../kit/words";
import type { FormProps } from "./fields";
import { apart, bodyOf, signsGone, isTouched, signsOf, type Seen } from "./seen";
import { Signs } from "./Signs";
import { useTyped } from "./useTyped";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

const ForAJob = styled.p`
  font-weight: 650;
`;
const Sides = styled.div`
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
`;

type Look = Schema["Look"];
type Sign = Schema["Sign"];

const Parts = styled.div`
  display: grid;
  gap: 8px;
`;
const Row = styled.div`
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
  align-items: flex-start;
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

const EYE_WORDS = { none: t("look_form.no_eye"), ...EYES };
const CAPS_WORDS = { no: t("look_form.not_looked_into"), yes: t("look_form.cell_by_cell") } as const;
const NEXT_LEVEL = Object.keys(LEVELS) as Schema["Level"][];
const corrosionWord = (kept: Schema["Corrosion"]) =>
  kept === "none" ? t("look_form.no_corrosion") : t("look_form.corrosion", { kept: small(CORROSION[kept]) });

export function LookForm(props: FormProps) {
  const { start: corrected, battery, size: known, hazards, seen: last, job, onKeep } = props;
  const size = caseOf(known, battery.nominal_volts);
  const count = (battery.nominal_volts ?? 12) / 2;
  // What was seen last still stands: the next look begins with it, and only what is changed by hand changes.
  const [before] = useState(() => signsOf((corrected ?? last ?? null) as Look | null));
  const isAgain = corrected === null && last !== undefined;
  const [seen, setSeen, latest] = useKept<Seen>("seen", before);
  const [now, setNow] = useState<Sign | null>(null);
  const set = (change: Partial<Seen>) => setSeen((as) => ({ ...as, ...change }));
  const { marks, corrosion, levels, eye, reason } = seen;
  const gone = signsGone(before, seen, hazards);
  const touched = isTouched(seen);
  const whole = gone.length === 0 || reason.trim() !== "";
  const unchanged = isAgain && JSON.stringify(seen) === JSON.stringify(before);
  function readingOf(as: Seen) {
    const left = signsGone(before, as, hazards);
    const says = left.length === 0 || as.reason.trim() !== "";
    const same = isAgain && JSON.stringify(as) === JSON.stringify(before);
    return { body: says && !same && (isTouched(as) || left.length > 0 || isAgain) ? bodyOf(as) : null, half: !says };
  }
  useTyped(props, seen, latest, readingOf);
  const form = useRef<HTMLFormElement>(null);
  const submit = () => whole && onKeep(bodyOf(latest.current));
  function toggle(sign: Sign) {
    const there = latest.current.marks.map((mark) => mark.sign);
    choose(new Set(there.includes(sign) ? there.filter((other) => other !== sign) : [...there, sign]));
  }
  function choose(keys: Set<string>) {
    const { marks } = latest.current;
    const added = [...keys].find((sign) => !marks.some((mark) => mark.sign === sign)) as Sign | undefined;
    const view = added && ON_TOP.has(added) ? ("top" as const) : ("front" as const);
    set({
      marks: [
        ...marks.filter((mark) => keys.has(mark.sign)),
        ...(added ? [{ sign: added, view, ...apart(marks) }] : []),
      ],
    });
    setNow(added ?? null);
  }

  function place(view: View, across: number, down: number) {
    const moved = now ?? marks.at(-1)?.sign;
    if (moved) set({ marks: marks.map((mark) => (mark.sign === moved ? { ...mark, view, across, down } : mark)) });
  }

  return (
    <Form
      ref={form}
      data-enter-keeps
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <Parts
        // Enter keeps, wherever it is pressed; a sign or a word under it is touched, or pressed with Space
        onKeyDownCapture={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          event.stopPropagation();
          if (!event.repeat) form.current?.requestSubmit();
        }}
      >
        {job && <ForAJob>{t("look_form.change_below_what_is_done_then_keep_it", { text: job.text })}</ForAJob>}
        <Sides>
          <TouchCase size={size} label={t("look_form.the_case_touch_where_the_sign_is")} onTouch={place}>
            {marks.map((mark) => (
              <MarkSpot key={mark.sign} mark={mark} size={size} gap={TOUCH_GAP} />
            ))}
          </TouchCase>
          <Signs marks={marks} hazards={hazards} job={job} onChoose={choose} onToggle={toggle} />
        </Sides>
        <Spoken label={t("look_form.posts_acid_eye")}>
          <Sentence>
            {t("look_form.posts_with")}{" "}
            <Word
              name="corrosion"
              label={t("look_form.corrosion_2")}
              says={corrosionWord(corrosion)}
              letter="X"
              odd={corrosion === "heavy"}
            />
            {t("look_form.acid")}{" "}
            <Word
              name="levels"
              label={t("look_form.acid_level")}
              says={small(CAPS_WORDS[levels.length ? "yes" : "no"])}
              letter="Q"
              odd={battery.has_caps === true && levels.length === 0}
            />
            , <Word name="eye" label={t("look_form.eye")} says={small(EYE_WORDS[eye])} letter="Y" />
          </Sentence>
          <WordChoices
            name="corrosion"
            label={t("look_form.corrosion_2")}
            value={corrosion}
            words={CORROSION}
            onChange={(corrosion) => set({ corrosion })}
          />
          <WordChoices
            name="levels"
            label={t("look_form.acid_level")}
            value={levels.length ? "yes" : "no"}
            words={CAPS_WORDS}
            onChange={(answer) =>
              set({ levels: answer === "yes" ? Array.from({ length: count }, () => "right" as const) : [] })
            }
          />
          <WordChoices
            name="eye"
            label={t("look_form.eye")}
            value={eye}
            words={EYE_WORDS}
            onChange={(eye) => set({ eye })}
          />
        </Spoken>
        {levels.length > 0 && (
          <Levels aria-label={t("look_form.levels_from_the_positive_post")}>
            {levels.map((level, cell) => (
              <LevelButton
                key={cell}
                aria-label={t("look_form.cell_press_for_the_next", { cell: cell + 1, level: LEVELS[level] })}
                onPress={() =>
                  set({
                    levels: levels.map((old, index) =>
                      index === cell ? (NEXT_LEVEL[(NEXT_LEVEL.indexOf(old) + 1) % NEXT_LEVEL.length] ?? old) : old,
                    ),
                  })
                }
              >
                {cell + 1}: {LEVELS[level]}
              </LevelButton>
            ))}
          </Levels>
        )}
        {gone.length > 0 && (
          <Entry
            label={t("look_form.why_is_taken_back", { gone: gone.map((mark) => small(SIGNS[mark.sign])).join(", ") })}
            value={reason}
            onChange={(reason) => set({ reason })}
            numeric={false}
            problem={whole ? undefined : t("look_form.say_why_such_as_it_was_the_battery_beside")}
            name="reason"
          />
        )}
        <Row>
          <Button type="submit" $tone="strong" isDisabled={!whole} autoFocus>
            {!touched && gone.length === 0
              ? t("screens.nothing_wrong")
              : unchanged
                ? t("look_form.still_so")
                : t("look_form.keep_what_is_seen")}{" "}
            <Key_>↵</Key_>
          </Button>
        </Row>
      </Parts>
    </Form>
  );
}
