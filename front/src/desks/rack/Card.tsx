/** One thing that needs a hand, with its one action; amps and volts beside it where the charger shows them. */
import { useState } from "react";
import { Form, Link } from "react-aria-components";
import styled from "styled-components";
import { nowMs } from "../../kit/clock";
import { Button, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { numberOf, voltsOf } from "../../kit/units";
import { clockWords } from "../../kit/words";
import { useWork, type Hand } from "./work";
import { t } from "../../language/t";

export const Sheet = styled(Form)<{ $tone: "copper" | "failed" | "line" }>`
  display: grid;
  gap: 6px;
  padding: 8px 12px 10px;
  border: 2px solid var(--${({ $tone }) => $tone});
  border-radius: 10px;
  background: var(--sheet);
  h2 {
    font-size: 18px;
    font-weight: 780;
    line-height: 1.2;
  }
  p {
    font-size: 16px;
    line-height: 1.25;
    color: var(--soft);
  }
`;
export const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
`;
export const Acts = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
`;
export const ToCheck = styled(Link)`
  ${touchLink}
`;
export const Fault = styled.p.attrs({ role: "alert" })`
  && {
    color: var(--failed);
    font-weight: 650;
  }
`;

/** Amps and volts as the charger shows them, typed with two keys or none. */
export function useFigures() {
  const [amps, setAmps] = useState("");
  const [volts, setVolts] = useState("");
  return {
    amps,
    volts,
    setAmps,
    setVolts,
    read: { amps: numberOf(amps), volts: voltsOf(volts) },
    isBoth: numberOf(amps) !== null && voltsOf(volts) !== null,
    clear: () => {
      setAmps("");
      setVolts("");
    },
  };
}

interface FiguresProps {
  of: ReturnType<typeof useFigures>;
  fault: (field: string) => string | undefined;
}

export function Figures({ of, fault }: FiguresProps) {
  return (
    <Pair>
      <Entry
        label={t("card.amps")}
        value={of.amps}
        onChange={of.setAmps}
        unit="A"
        name="amps"
        problem={fault("amps")}
      />
      <Entry
        label={t("screens.volts")}
        value={of.volts}
        onChange={of.setVolts}
        unit="V"
        name="volts"
        problem={fault("volts")}
      />
    </Pair>
  );
}

export function Card({ hand, onChoose }: { hand: Hand; onChoose: (tag: number) => void }) {
  const figures = useFigures();
  const { work, busy, said, fault } = useWork(figures.clear);
  const { tag } = hand;
  const when = hand.overdue
    ? t("card.since", { at: clockWords(hand.at, new Date(nowMs())) })
    : clockWords(hand.at, new Date(nowMs()));
  const isStop = hand.does === "stop";
  const off = (how: "full" | "early") => work({ does: "off", tag, how, figures: figures.read });

  function act() {
    if (hand.does === "connect" && hand.charger_id !== null)
      work({ does: "connect", tag, charger_id: hand.charger_id, output: hand.output ?? 1 });
    else if (hand.does === "off") off("full");
    else if (isStop) off("early");
    else if (hand.does === "look" && figures.isBoth) work({ does: "note", tag, figures: figures.read });
  }
  return (
    <Sheet
      $tone={isStop ? "failed" : "copper"}
      data-hand={`${hand.does}-${tag}`}
      aria-label={hand.words}
      onSubmit={(event) => {
        event.preventDefault();
        act();
      }}
    >
      <h2>{hand.words}</h2>
      <p>
        {hand.says}
        {hand.does !== "connect" && <>; {when}</>}
      </p>
      {(hand.does === "off" || hand.does === "look" || isStop) && <Figures of={figures} fault={fault} />}
      {said && <Fault>{said}</Fault>}
      <Acts>
        {hand.does === "connect" && (
          <Button type="submit" $tone="copper" isDisabled={busy} data-next>
            {t("screens.clamped_on")}
          </Button>
        )}
        {hand.does === "off" && (
          <Button type="submit" $tone="copper" isDisabled={busy} data-next>
            {t("screens.full_off")}
          </Button>
        )}
        {(hand.does === "off" || isStop) && (
          <Button
            type={isStop ? "submit" : "button"}
            {...(isStop ? { $tone: "copper" as const } : {})}
            isDisabled={busy}
            {...(isStop ? {} : { onPress: () => off("early") })}
          >
            {isStop ? t("card.stopped_off") : t("screens.off_early")}
          </Button>
        )}
        {hand.does === "look" && (
          <Button type="submit" $tone="copper" isDisabled={busy || !figures.isBoth} data-next>
            {t("screens.note")}
          </Button>
        )}
        {hand.does === "test" || hand.does === "read" || isStop ? (
          <ToCheck href={`/check/${tag}`}>{t("card.check", { tag })}</ToCheck>
        ) : (
          hand.does !== "switch" && (
            <Button type="button" onPress={() => onChoose(tag)} aria-label={t("card.more_about", { tag })}>
              …
            </Button>
          )
        )}
      </Acts>
    </Sheet>
  );
}
