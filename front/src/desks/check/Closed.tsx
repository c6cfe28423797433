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
      <Band aria-label={t("Opened with a reason")}>
        <p>
          {t("Opened although it is unsafe:")} <b>{despite}</b>
        </p>
        <div>
          <Button onPress={() => onDespite("")}>{t("Close tests and charge again")}</Button>
        </div>
      </Band>
    );
  return (
    <Band aria-label={t("Closed: unsafe")}>
      <p>
        <b>{t("Tests and charge are closed.")}</b> {t("Hold it apart, touch nothing else.")}
      </p>
      {asking ? (
        <FormStack
          onSubmit={(event) => {
            event.preventDefault();
            if (typed.trim()) onDespite(typed.trim());
          }}
        >
          <Entry
            label={t("Why is it read nevertheless?")}
            value={typed}
            onChange={setTyped}
            numeric={false}
            autoFocus
            name="despite"
          />
          <Button type="submit" isDisabled={typed.trim() === ""}>
            {t("Open tests and charge")}
          </Button>
        </FormStack>
      ) : (
        <div>
          <Button onPress={() => setAsking(true)}>{t("Open with a reason")}</Button>
        </div>
      )}
    </Band>
  );
}
