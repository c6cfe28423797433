/** Case leakage: type the volts, touch the place on the drawing; as many places as are damp. */
import type { Schema } from "../../api/client";
import { caseOf, type Size } from "../../case/Case";
import { placeOf, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, Choice, Key_ } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { useFirstField } from "../../kit/useFirstField";
import { endsInPoint, voltsFault, voltsOf } from "../../kit/units";
import type { FormProps, Typed } from "./fields";
import { useTyped } from "./useTyped";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import styled from "styled-components";
import { FormStack } from "../../kit/layout";

const Sides = styled.div`
  display: flex;
  gap: 16px;
`;
const Fields = styled.div`
  display: grid;
  gap: 10px;
  align-content: start;
`;
const OneFigure = styled.div`
  width: 150px;
`;
const SpotVolts = styled.text`
  font-size: 19px;
  font-weight: 700;
  fill: var(--ink);
`;

type Spot = Schema["Spot"];

const NO_YES = { no: t("screens.no"), yes: t("screens.yes") } as const;

interface Typing {
  text: string;
  cleaned: "no" | "yes";
  spots: Spot[];
}

function readingOf({ text, cleaned, spots }: Typing): Typed {
  const volts = voltsOf(text);
  const all = [...(volts === null ? [] : [volts]), ...spots.map((spot) => spot.volts)];
  const isWrong = text.trim() !== "" && volts === null;
  const body = all.length && !isWrong ? { volts: Math.max(...all), cleaned: cleaned === "yes", spots } : null;
  return { body, half: endsInPoint(text) || isWrong };
}

export function LeakageForm(props: FormProps) {
  const { start: kept, battery, size: known, due, says, fault, onKeep } = props;
  const start = kept as Schema["CaseLeakage"] | null;
  const size = caseOf(known, battery.nominal_volts);
  const [typing, setTyping, now] = useKept<Typing>("typing", {
    text: start ? String(start.volts) : "",
    cleaned: (start?.cleaned ?? due === "clean_top") ? "yes" : "no",
    spots: start?.spots ?? [],
  });
  const { text, cleaned, spots } = typing;
  const set = (change: Partial<Typing>) => setTyping((before) => ({ ...before, ...change }));
  const form = useFirstField();
  const { body, read } = useTyped(props, typing, now, readingOf);

  function touch(view: View, across: number, down: number) {
    const volts = voltsOf(now.current.text);
    if (volts !== null) set({ spots: [...now.current.spots, { volts, view, across, down }] });
  }

  return (
    <FormStack
      ref={form}
      onSubmit={(event) => {
        event.preventDefault();
        const typed = read().body;
        if (typed) onKeep(typed);
      }}
    >
      <p>{t("leakage_form.voltmeter_from_the_positive_post_to_the")}</p>
      <Sides>
        <TouchCase size={size} label={t("leakage_form.the_case_touch_where_it_was_measured")} onTouch={touch}>
          {spots.map((spot, index) => (
            <SpotFigure key={index} spot={spot} size={size} over={says?.places.includes(index) ?? false} />
          ))}
        </TouchCase>
        <Fields>
          <OneFigure>
            <Entry
              label={t("leakage_form.post_to_plastic")}
              value={text}
              onChange={(typed) => set({ text: typed })}
              unit="V"
              big
              autoFocus
              problem={voltsFault(text) ?? fault("volts")}
              name="volts"
            />
          </OneFigure>
          <Choice
            label={t("leakage_form.cleaned_and_dried_before")}
            value={cleaned}
            words={NO_YES}
            onChange={(answer) => set({ cleaned: answer })}
          />
          {spots.length > 0 && (
            <Button onPress={() => set({ spots: spots.slice(0, -1) })}>
              {t("leakage_form.take_the_last_place_away")}
            </Button>
          )}
        </Fields>
      </Sides>
      <div>
        <Button type="submit" $tone="strong" isDisabled={body === null}>
          {t("screens.keep")} <Key_>↵</Key_>
        </Button>
      </div>
    </FormStack>
  );
}

/** The volts at a place that was touched, in the colour of what the core finds too high. */
function SpotFigure({ spot, size, over }: { spot: Spot; size: Size; over: boolean }) {
  const { x, y } = placeOf(size, spot.view ?? "top", spot.across ?? 0.5, spot.down ?? 0.5);
  return (
    <g pointerEvents="none">
      <rect
        x={x - 26}
        y={y - 14}
        width={52}
        height={28}
        rx={8}
        fill="var(--sheet)"
        stroke={over ? "var(--failed)" : "var(--sound)"}
        strokeWidth={3}
      />
      <SpotVolts x={x} y={y + 7} textAnchor="middle">
        {localFigure(spot.volts.toFixed(1))}
      </SpotVolts>
    </g>
  );
}
