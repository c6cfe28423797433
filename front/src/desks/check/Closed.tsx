/** An unsafe battery: tests and charge are closed, and opened only with a reason that stands with what is read. */
import { useState } from "react";
import styled from "styled-components";
import { Button } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { t } from "../../language/t";
import { FormStack } from "../../kit/layout";

const Band = styled.section`
  border: 3px solid var(--band-a);
  border-radius: 10px;
  padding: 10px 14px;
  display: grid;
  gap: 8px;
  font-size: 18px;
  line-height: 1.25;
  background: linear-gradient(var(--sheet), var(--sheet)) padding-box;
  border-image: repeating-linear-gradient(45deg, var(--band-a) 0 10px, var(--band-b) 10px 20px) 6;
`;

export function Closed({ despite, onDespite }: { despite: string; onDespite: (reason: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState("");
  if (despite)
    return (
      <Band aria-label={t("closed.opened_with_a_reason")}>
        <p>
          {t("closed.opened_although_it_is_unsafe")} <b>{despite}</b>
        </p>
        <div>
          <Button onPress={() => onDespite("")}>{t("closed.close_tests_and_charge_again")}</Button>
        </div>
      </Band>
    );
  return (
    <Band aria-label={t("closed.closed_unsafe")}>
      <p>
        <b>{t("closed.tests_and_charge_are_closed")}</b> {t("closed.hold_it_apart_touch_nothing_else")}
      </p>
      {asking ? (
        <FormStack
          onSubmit={(event) => {
            event.preventDefault();
            if (typed.trim()) onDespite(typed.trim());
          }}
        >
          <Entry
            label={t("closed.why_is_it_read_nevertheless")}
            value={typed}
            onChange={setTyped}
            numeric={false}
            autoFocus
            name="despite"
          />
          <Button type="submit" isDisabled={typed.trim() === ""}>
            {t("closed.open_tests_and_charge")}
          </Button>
        </FormStack>
      ) : (
        <div>
          <Button onPress={() => setAsking(true)}>{t("closed.open_with_a_reason")}</Button>
        </div>
      )}
    </Band>
  );
}
