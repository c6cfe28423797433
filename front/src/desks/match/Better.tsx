/** What the dearer one buys, in two sentences; turned to the customer they fill the screen. */
import { useState } from "react";
import { Dialog, Modal } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { Button, Over } from "../../kit/parts";
import { money } from "../../kit/words";
import { t } from "../../language/t";

const What = styled.div`
  display: grid;
  gap: 6px;
  font-size: 16px;
  line-height: 1.28;
`;
const TurnBack = styled(Button)`
  font-size: 20px;
  justify-self: start;
`;

const Turned = styled(Modal)`
  position: fixed;
  inset: 0;
  z-index: 21;
  display: grid;
  place-items: center;
  padding: 40px;
  background: var(--ground);
  color: var(--ink);
  font-size: 40px;
  line-height: 1.25;
  & > section {
    display: grid;
    gap: 26px;
    max-width: 1000px;
    outline: none;
  }
  b {
    font-size: 48px;
  }
  @media (max-width: 599px) {
    font-size: 26px;
    padding: 18px;
    b {
      font-size: 30px;
    }
  }
`;
export function Better({
  better,
  than,
  candidate,
  currency,
}: {
  better: Schema["Upgrade"];
  than: Schema["Candidate"];
  candidate: Schema["Candidate"];
  currency: string;
}) {
  const [turned, setTurned] = useState(false);
  const sentences = (
    <>
      <p>
        {better.sentences[0]} {better.sentences[1]}
      </p>
    </>
  );
  return (
    <What data-testid="upgrade">
      <p>
        <b>{t("better.more", { more_cents: money(better.more_cents, currency) })}</b>{" "}
        {t("better.than", { name: than.name })}
      </p>
      {sentences}
      <div>
        <Button onPress={() => setTurned(true)}>{t("better.turn_it_to_the_customer")}</Button>
      </div>
      <Over isOpen={turned} onOpenChange={setTurned} isDismissable>
        <Turned>
          <Dialog aria-label={t("better.for_the_customer")}>
            <b>{candidate.line}</b>
            {sentences}
            <p>{t("better.more_2", { more_cents: money(better.more_cents, currency) })}</p>
            <TurnBack $tone="strong" autoFocus onPress={() => setTurned(false)}>
              {t("better.turn_it_back")}
            </TurnBack>
          </Dialog>
        </Turned>
      </Over>
    </What>
  );
}
