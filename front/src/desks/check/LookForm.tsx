/** Look: pick a sign, touch where it is; corrosion, levels cell by cell, the eye. A hazard is taken back only with a reason. */
import { useEffect, useRef, useState } from "react";
import { Form, ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { caseOf } from "../../case/Case";
import { MarkSpot } from "../../case/CasePicture";
import { TOUCH_GAP, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, chipStyle, Entry, Key_ } from "../../kit/parts";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { isFree } from "../../kit/letters";
import { CORROSION, EYES, LEVELS, SIGNS } from "../../kit/words";
import type { FormProps } from "./fields";
import { useTyped } from "./useTyped";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

type Look = Schema["Look"];
type Mark = Schema["Mark"];
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
const Toggles = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;
const Toggle = styled(ToggleButton)<{ $hazard: boolean; $asked: boolean }>`
  ${chipStyle}
  padding: 2px 8px;
  gap: 3px;
  font-size: 16px;
  sup {
    font-size: 12px;
    font-weight: 500;
    opacity: 0.75;
  }
  ${({ $asked }) => $asked && "border-style: double; border-color: var(--copper);"}
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
/** Pressed with shift in the open look. */
export const SIGN_LETTERS: Record<Sign, string> = {
  bulged: "B", cracked: "K", leaking: "L", hot: "H", smelling_of_rotten_egg: "E", frozen: "F", melted_post: "M",
  loose_post: "P", hold_down_missing: "N", hold_down_loose: "J", thin_post: "T", vent_tube_off: "V", tray_rusted: "R",
  wet_top: "W", sticker_gone: "S",
}; // prettier-ignore
/** The sign that is gone once a job is done. */
const SIGN_OF_JOB: Record<string, Sign> = {
  fit_hold_down: "hold_down_missing",
  tighten_hold_down: "hold_down_loose",
  shim_post: "thin_post",
  vent_tube: "vent_tube_off",
  mend_tray: "tray_rusted",
};
const NEXT_LEVEL = Object.keys(LEVELS) as Schema["Level"][];
const corrosionWord = (kept: Schema["Corrosion"]) =>
  kept === "none" ? t("no corrosion") : t("{0} corrosion", small(CORROSION[kept]));

interface Seen {
  marks: Mark[];
  corrosion: Schema["Corrosion"];
  levels: Schema["Level"][];
  eye: Schema["Eye"] | "none";
  reason: string;
}

const seenIn = (look: Look | null): Seen => ({
  marks: look?.marks ?? [],
  corrosion: look?.corrosion ?? "none",
  levels: look?.levels ?? [],
  eye: look?.eye ?? "none",
  reason: "",
});

const bodyOf = ({ marks, corrosion, levels, eye, reason }: Seen) => ({
  marks,
  corrosion,
  levels,
  eye: eye === "none" ? null : eye,
  ...(reason.trim() ? { reason } : {}),
});

const isTouched = ({ marks, corrosion, levels, eye }: Seen) =>
  marks.length > 0 || corrosion !== "none" || levels.length > 0 || eye !== "none";

/** Hazards of the look before that are not seen any more: they are taken back with a reason. */
const goneFrom = (before: Seen, { marks }: Seen, hazards: ReadonlySet<string>) =>
  before.marks.filter((mark) => hazards.has(mark.sign) && !marks.some((other) => other.sign === mark.sign));

export function LookForm(props: FormProps) {
  const { start: corrected, battery, size: known, hazards, seen: last, job, onKeep } = props;
  const size = caseOf(known, battery.nominal_volts);
  const count = (battery.nominal_volts ?? 12) / 2;
  // What was seen last still stands: the next look begins with it, and only what is changed by hand changes.
  const [before] = useState(() => seenIn((corrected ?? last ?? null) as Look | null));
  const isAgain = corrected === null && last !== undefined;
  const [seen, setSeen, latest] = useKept<Seen>("seen", before);
  const [now, setNow] = useState<Sign | null>(null);
  const set = (change: Partial<Seen>) => setSeen((as) => ({ ...as, ...change }));
  const { marks, corrosion, levels, eye, reason } = seen;
  const gone = goneFrom(before, seen, hazards);
  const touched = isTouched(seen);
  const whole = gone.length === 0 || reason.trim() !== "";
  const unchanged = isAgain && JSON.stringify(seen) === JSON.stringify(before);
  function readingOf(as: Seen) {
    const left = goneFrom(before, as, hazards);
    const says = left.length === 0 || as.reason.trim() !== "";
    const same = isAgain && JSON.stringify(as) === JSON.stringify(before);
    return { body: says && !same && (isTouched(as) || left.length > 0 || isAgain) ? bodyOf(as) : null, half: !says };
  }
  useTyped(props, seen, latest, readingOf);
  const form = useRef<HTMLFormElement>(null);
  const submit = () => whole && onKeep(bodyOf(latest.current));
  const letters = useRef<Record<string, () => void>>({});
  useEffect(() => {
    letters.current = Object.fromEntries(
      Object.entries(SIGN_LETTERS).map(([sign, letter]) => [letter, () => toggle(sign as Sign)]),
    );
  });
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      const act = isFree(event, true) ? letters.current[event.key.toUpperCase()] : undefined;
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", hear);
    return () => window.removeEventListener("keydown", hear);
  }, []);

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
        {job && <p style={{ fontWeight: 650 }}>{t("{0}: change below what is done, then keep it.", job.text)}</p>}
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
              <Toggle
                key={sign}
                id={sign}
                $hazard={hazards.has(sign as Sign)}
                $asked={job !== undefined && SIGN_OF_JOB[job.key ?? ""] === sign}
              >
                {word} <sup aria-hidden>⇧{SIGN_LETTERS[sign as Sign]}</sup>
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
              odd={battery.has_caps === true && levels.length === 0}
            />
            , <Word name="eye" label={t("Eye")} says={small(EYE_WORDS[eye])} letter="Y" />
          </Sentence>
          <WordChoices
            name="corrosion"
            label={t("Corrosion")}
            value={corrosion}
            words={CORROSION}
            onChange={(corrosion) => set({ corrosion })}
          />
          <WordChoices
            name="levels"
            label={t("Acid level")}
            value={levels.length ? "yes" : "no"}
            words={CAPS_WORDS}
            onChange={(answer) =>
              set({ levels: answer === "yes" ? Array.from({ length: count }, () => "right" as const) : [] })
            }
          />
          <WordChoices name="eye" label={t("Eye")} value={eye} words={EYE_WORDS} onChange={(eye) => set({ eye })} />
        </Spoken>
        {levels.length > 0 && (
          <Levels aria-label={t("Levels from the positive post")}>
            {levels.map((level, cell) => (
              <LevelButton
                key={cell}
                aria-label={t("Cell {0}: {1}, press for the next", cell + 1, LEVELS[level])}
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
            label={t("Why is “{0}” taken back?", gone.map((mark) => small(SIGNS[mark.sign])).join(", "))}
            value={reason}
            onChange={(reason) => set({ reason })}
            numeric={false}
            problem={whole ? undefined : t("Say why, such as: it was the battery beside it")}
            name="reason"
          />
        )}
        <Row>
          <Button type="submit" $tone="strong" isDisabled={!whole} autoFocus>
            {!touched && gone.length === 0 ? t("Nothing wrong") : unchanged ? t("Still so") : t("Keep what is seen")}{" "}
            <Key_>↵</Key_>
          </Button>
        </Row>
      </Parts>
    </Form>
  );
}

/** Where the next sign is put until somebody touches its place: beside those that are there. */
const apart = (marks: Mark[]) => ({ across: 0.16 + (marks.length % 4) * 0.22, down: marks.length < 4 ? 0.78 : 0.45 });
