/** The judgement: the vane, its words, the reasons one can touch, the open jobs, and the one next step. */
import { useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { Caution } from "../../kit/parts";
import { NARROW, UPRIGHT } from "../../kit/theme";
import { temperatureIn, temperatureUnit } from "../../kit/units";
import { dayOf, clockWords } from "../../kit/words";
import { nowMs } from "../../kit/clock";
import { CHARGES } from "./charges";
import { dueOf } from "./rungs";
import { toneOf } from "../../vane/outcomes";
import { Vane } from "../../vane/Vane";
import { Actions } from "./Actions";
import { Jobs } from "./Jobs";
import { OwnWord } from "./OwnWord";
import { Reasons } from "./Reasons";
import { CannotWait, WaitOrKnow } from "./WaitOrKnow";
import { t } from "../../language/t";
import { localFigure } from "../../language/catalogue";

const Panel = styled.section`
  display: grid;
  grid-template-rows: minmax(120px, 214px) auto minmax(44px, max-content) minmax(max-content, 1fr);
  gap: 4px;
  padding: 6px 18px 10px;
  min-height: 0;
  scroll-padding-bottom: 120px; /* what is reached by keys stops above the actions */
  border-left: 1px solid var(--line);
  ${NARROW} {
    padding: 6px 14px 10px;
  }
  ${UPRIGHT} {
    border-left: none;
    border-bottom: 1px solid var(--line);
    grid-template-rows: 176px auto auto auto;
  }
`;
const Scene = styled.div`
  position: relative;
  display: grid;
  min-height: 0;
`;
const Headline = styled.div`
  font-size: 17px;
  line-height: 1.2;
  h2 {
    display: inline;
    font-size: 30px;
    line-height: 1.05;
    font-weight: 780;
  }
  span {
    color: var(--soft);
  }
`;
/** What it means to its owner: one line, in plain words. */
const Outlook = styled.p`
  font-size: 16px;
  line-height: 1.2;
  color: var(--soft);
  padding-top: 2px;
`;
const Next = styled.div`
  background: var(--step);
  color: var(--on-step);
  border-radius: 10px;
  padding: 9px 14px;
  display: grid;
  gap: 2px;
  b {
    font-size: 19px;
    line-height: 1.2;
  }
  small {
    font-size: 16px;
    opacity: 0.9;
    line-height: 1.25;
  }
`;
const Foot = styled.div`
  display: grid;
  align-self: end;
  gap: 7px;
`;

interface Props {
  judgement: Schema["Judgement"];
  store: Schema["StoreView"];
  view: Schema["CheckView"];
  /** What it is a judgement of. */
  check: Schema["CheckFile"];
  /** The next step is a rung that stands open: it says itself what to do. */
  saidByRung: boolean;
  /** Go to the next step's rung. */
  onNext: (() => void) | null;
  /** A job was done: keep the look that proves it, or open the rung that does. */
  onJob: (job: Schema["Job"]) => void;
}

/** A step's own cautions; else those of a charge, or of the rung it opens. */
function cautionsOf(key: Schema["StepKey"], all: Record<string, string[]>): string[] {
  return (
    all[key] ??
    all[key === "stop_charge" ? "charge_run" : CHARGES.has(key) ? "charge_and_retest" : (dueOf(key) ?? "")] ??
    []
  );
}

export const VerdictPanel = memo(function VerdictPanel(props: Props) {
  const { judgement, store, view, check, saidByRung, onNext, onJob } = props;
  const [chosen, setChosen] = useState<number | null>(null);
  const [cannotWait, setCannotWait] = useState(false);
  const [saying, setSaying] = useState(false);
  const { data: known } = useQuery(reference);
  const step = judgement.next_step;
  const isSold = step.key === "sold"; // nobody tested it, and nobody is asked to
  const cautions = saidByRung ? [] : cautionsOf(step.key, known?.cautions ?? {});
  const hangs = view.stay && view.place === "on_charge" && CHARGES.has(step.key) ? hangsWords(view) : null;
  const jobs = judgement.jobs ?? [];
  const car = judgement.look_at_the_car_why;
  const carIsAJob = jobs.some((job) => job.key === "find_car_fault" || job.key === "register");
  const outlook = outlookOf(judgement);
  return (
    <Panel aria-label={t("verdict_panel.judgement")}>
      <Scene>
        <Vane judgement={judgement} chosen={chosen} onChoose={setChosen} />
        {!isSold && (
          <CannotWait outcome={judgement.outcome} unfolded={cannotWait} onPress={() => setCannotWait(true)} />
        )}
      </Scene>
      <Headline aria-live="polite">
        <h2 style={{ color: toneOf(judgement.outcome).ink }} data-testid="headline">
          {judgement.headline}
        </h2>{" "}
        {!isSold && <span data-testid="sureness">{judgement.sureness}</span>}
        {judgement.watch_until && (
          <span>{t("verdict_panel.test_again", { watch_until: dayOf(judgement.watch_until) })}</span>
        )}
        {outlook && <Outlook data-testid="outlook">{outlook}</Outlook>}
      </Headline>
      <Reasons judgement={judgement} chosen={chosen} onChoose={setChosen} />
      <Foot>
        <OwnWord key={view.tag} view={view} isSaying={saying} onDone={() => setSaying(false)} />
        <WaitOrKnow check={check} judgement={judgement} unfolded={cannotWait} />
        <Jobs jobs={jobs} car={carIsAJob ? null : (car ?? null)} due={step.job ?? null} onDone={onJob} />
        {!saidByRung && (
          <Next>
            <b data-testid="next-step">{hangs ?? plannedWords(view) ?? step.text}</b>
            <small>
              {hangs
                ? t("verdict_panel.then_let_it_rest_and_test_it_again_needs", { needs: step.needs })
                : isSold
                  ? `${step.why}.`
                  : t("verdict_panel.needs", {
                      why: step.why,
                      needs: step.needs,
                      minutes: minutesWords(view.planned ? view.planned.hours * 60 : step.minutes),
                    })}
              {step.load &&
                t("verdict_panel.limit_for", {
                  temperature_c: Math.round(temperatureIn(step.load.temperature_c, store)),
                  store: temperatureUnit(store),
                  t: step.load.temperature_measured ? "" : t("verdict_panel.none_was_taken"),
                })}
            </small>
          </Next>
        )}
        {cautions.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
        <Actions view={view} judgement={judgement} onNext={onNext} onJob={onJob} onSay={() => setSaying(true)} />
      </Foot>
    </Panel>
  );
});

/** A charge the rack has a place for: where, as it will be set, and from when. */
function plannedWords({ planned }: Schema["CheckView"]): string | null {
  if (!planned) return null;
  return t("verdict_panel.charge_it_on", {
    charger: planned.charger,
    volts: localFigure(planned.volts.toFixed(1)),
    amps: localFigure(planned.amps),
    hours: Math.round(planned.hours),
    starts: clockWords(planned.starts_at, new Date(nowMs())),
  });
}

/** What is asked already goes on: where, as it is set, and until when. */
function hangsWords({ stay, needs_hand_at }: Schema["CheckView"]): string {
  const off = needs_hand_at
    ? t("verdict_panel.off", { needs_hand_at: clockWords(needs_hand_at, new Date(nowMs())) })
    : "";
  return stay
    ? t("verdict_panel.it_hangs_on_at_v_a", {
        charger: stay.charger,
        volts: localFigure(stay.volts.toFixed(1)),
        amps: stay.amps,
        off,
      })
    : "";
}

/** What a battery died of, else down to what cold it starts its car. */
function outlookOf({ cause, prospect, not_measured: unknown }: Schema["Judgement"]): string | null {
  const light = prospect?.lighter_duty ? `${prospect.lighter_duty}.` : "";
  if (unknown) {
    const first = prospect && !light ? prospect.words.split(":")[0] : t("verdict_panel.it_starts_well");
    return t("verdict_panel.what_it_holds_was_not_measured", { first });
  }
  if (cause) return t("verdict_panel.likely", { words: cause.words, change: cause.change, light }).trim();
  if (prospect) return light || `${prospect.words.split(":")[0]}.`;
  return null;
}

export const minutesWords = (minutes: number) =>
  minutes < 60 ? t("screens.min", { minutes }) : t("verdict_panel.about_h", { minutes: Math.round(minutes / 60) });
