/** The tag line: a tag is asked for, never guessed from digits. It shows the battery it found before going there. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Dialog, Form as AriaForm, Modal } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../api/client";
import { battery, shelf } from "../api/queries";
import { FrontShape, UNKNOWN_SIZE, type Size } from "../case/Case";
import { InlineMark, toneOf } from "../vane/outcomes";
import { Button, Key_, Over, StyledInput, labelStyle } from "./parts";
import { TAG_FIELD } from "./scan";
import { useSettled } from "./useSettled";
import { outcomeWords, PLACES } from "./words";
import { t } from "../language/t";
import { Beside } from "./layout";

const Says = styled.p`
  grid-column: 1 / -1;
  color: var(--soft);
`;

/** While a number is still being typed the server is not asked. */
const ASK_AFTER_MS = 180;

const Sheet = styled(Modal)`
  position: absolute;
  top: 0;
  left: 0;
  width: min(560px, 100vw);
  max-height: 100vh;
  overflow: auto;
  background: var(--ground);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-top: none;
  border-left: none;
  border-radius: 0 0 14px 0;
  padding: 14px 20px 18px;
`;
const Form = styled(AriaForm)`
  display: grid;
  gap: 12px;
  label {
    ${labelStyle}
  }
  input {
    font-size: 34px;
    font-weight: 800;
    min-height: 60px;
  }
`;
const Found = styled.div`
  display: grid;
  grid-template-columns: 112px 1fr;
  gap: 16px;
  align-items: center;
  min-height: 118px;
  h2 {
    font-size: 24px;
    line-height: 1.1;
  }
  p {
    font-size: 17px;
    line-height: 1.3;
  }
`;
const Acts = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
`;

interface Props {
  /** What is in the line as it opens: a scanned tag, or nothing. */
  start: string;
  onClose: () => void;
  onGo: (tag: number) => void;
}

export function TagLine({ start, onClose, onGo }: Props) {
  const [typed, setTyped] = useState(plain(start));
  const [seen, setSeen] = useState(start);
  if (seen !== start) {
    setSeen(start); // another code was scanned, or more was typed before the line was drawn
    setTyped(plain(start));
  }
  const battery = useFound(typed);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    input.current?.focus();
  }, [start]);
  // An Enter typed before the line was drawn, or before the battery was found, goes once it is.
  const [wanted, setWanted] = useState<string | null>(null);
  const goes = (start.endsWith("\n") || wanted === typed) && battery.says !== null ? battery.tag : null;
  useEffect(() => {
    if (goes !== null) onGo(goes);
  }, [goes, onGo]);
  return (
    <Over isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Sheet>
        <Dialog aria-label={t("tag_line.go_to_a_battery")}>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              setWanted(typed);
            }}
          >
            <label>
              {t("tag_line.tag")}
              <StyledInput
                ref={input}
                data-field={TAG_FIELD}
                inputMode="numeric"
                autoComplete="off"
                value={typed}
                onChange={(event) => setTyped(event.target.value.replace(/\D/g, "").slice(0, 9))}
              />
            </label>
            <Found aria-live="polite">
              {battery.says ? (
                <>
                  <Picture found={battery.says} />
                  <div>
                    <h2>{battery.says.line || t("screens.no_line_on_it")}</h2>
                    <p>
                      {[battery.says.rated, battery.says.who, battery.says.car].filter(Boolean).join(", ") ||
                        t("tag_line.no_more_is_known")}
                    </p>
                    <Beside $gap={8} as="p">
                      {battery.says.outcome && <InlineMark outcome={battery.says.outcome} size={20} />}
                      <b style={{ color: toneOf(battery.says.outcome).ink }}>
                        {battery.says.outcome
                          ? outcomeWords(battery.says.outcome, battery.says.step)
                          : t("screens.not_read_yet")}
                      </b>
                      <span>{PLACES[battery.says.place]}</span>
                    </Beside>
                  </div>
                </>
              ) : (
                <Says>
                  {battery.missing
                    ? t("tag_line.no_battery_here_carries_look_at_the_tag", { typed })
                    : t("tag_line.type_the_number_on_its_tag")}
                </Says>
              )}
            </Found>
            <Acts>
              <Button type="submit" $tone="strong" isDisabled={!battery.says}>
                {t("screens.go_to", { tag: battery.tag ?? t("screens.it") })} <Key_>↵</Key_>
              </Button>
              <Button onPress={onClose}>
                {t("tag_line.stay")} <Key_>{t("screens.esc")}</Key_>
              </Button>
            </Acts>
          </Form>
        </Dialog>
      </Sheet>
    </Over>
  );
}

const plain = (text: string) => text.replace(/\D/g, "");

interface Shown {
  line: string;
  rated: string;
  who: string;
  car: string;
  size: Size | null;
  place: Schema["ShelfBattery"]["place"];
  outcome: Schema["Outcome"] | null;
  step: Schema["StepKey"] | null;
  low: number | null;
  high: number | null;
}

/** The battery of what is typed: from the shelf at once, and with all that is known of it as soon as the server answers. */
function useFound(typed: string): { tag: number | null; says: Shown | null; missing: boolean } {
  const tag = typed === "" ? null : Number(typed);
  const { data: shelved } = useQuery(shelf);
  const here = shelved?.find((one) => one.tag === tag);
  const settledTag = useSettled(tag, ASK_AFTER_MS);
  const { data: view, isError } = useQuery({
    ...battery(settledTag ?? 0),
    enabled: settledTag !== null && settledTag > 0,
    retry: false,
  });
  if (tag === null) return { tag, says: null, missing: false };
  const known = view?.tag === tag ? view : null;
  if (!here && !known) return { tag, says: null, missing: isError && settledTag === tag };
  return {
    tag,
    missing: false,
    says: {
      line: known?.battery.line ?? here?.line ?? "",
      rated: known?.limits.rating_words ?? "",
      who: known?.customer_name ?? "",
      car: known?.car?.name ?? "",
      size: known?.size ?? here?.size ?? null,
      place: known?.place ?? here?.place ?? "counter",
      outcome: here ? here.outcome : known?.judged_at ? known.judgement.outcome : null,
      step: here ? here.next_step : known?.judged_at ? known.judgement.next_step.key : null,
      low: here?.charge_low_pct ?? null,
      high: here?.charge_high_pct ?? null,
    },
  };
}

function Picture({ found }: { found: Shown }) {
  const size = found.size ?? UNKNOWN_SIZE;
  return (
    <svg viewBox={`-8 -${size.height_mm + 8} ${size.length_mm + 16} ${size.height_mm + 16}`} aria-hidden>
      <FrontShape size={size} low={found.low} high={found.high} outcome={found.outcome} />
    </svg>
  );
}
