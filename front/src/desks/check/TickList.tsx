/** A list that is gone through thing by thing; and the fold of words that are rarely asked for. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { chipStyle, labelStyle } from "../../kit/parts";
import type { Tick } from "./fields";
import { t } from "../../language/t";

/** A labelled row of chips and small fields. */
export const LabelledRow = styled.div`
  width: 100%;
  > span {
    ${labelStyle}
  }
  > div {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 8px;
    align-items: end;
  }
`;
const Chip = styled(AriaButton)<{ $state: Tick }>`
  ${chipStyle}
  padding: 2px 10px;
  font-size: 16px;
  cursor: pointer;
  ${({ $state }) => $state === "fine" && "border-color: var(--sound); color: var(--sound); font-weight: 700;"}
  ${({ $state }) => $state === "wrong" && "border-color: var(--failed); color: var(--failed); font-weight: 700;"}
`;
const Fold = styled(AriaButton)`
  min-height: 44px;
  margin: -6px 0 -6px 6px;
  padding: 0 6px;
  border: none;
  background: none;
  color: var(--soft);
  font-size: 16px;
  cursor: pointer;
  &[data-hovered] {
    background: var(--shelf);
  }
`;

const NEXT: Record<Tick, Tick> = { "": "fine", fine: "wrong", wrong: "" };
const MARK: Record<Tick, string> = { "": "", fine: "✓ ", wrong: "✗ " };
const SAYS: Record<Tick, string> = {
  "": t("tick_list.not_looked_at"),
  fine: t("tick_list.in_order"),
  wrong: t("tick_list.found_wrong"),
};

interface Props {
  label: string;
  words: Record<string, string>;
  states: Tick[];
  onChange: (states: Tick[]) => void;
}

/** Each thing is pressed once when it is in order, twice when it is the cause. */
export function TickList({ label, words, states, onChange }: Props) {
  return (
    <LabelledRow role="group" aria-label={label}>
      <span>{t("tick_list.press_once_in_order_twice_wrong", { label })}</span>
      <div>
        <Chip $state="" onPress={() => onChange(states.map((state) => (state === "" ? "fine" : state)))}>
          {t("tick_list.all_the_others_in_order")}
        </Chip>
        {Object.entries(words).map(([key, word], place) => {
          const state = states[place] ?? "";
          return (
            <Chip
              key={key}
              $state={state}
              aria-label={`${word}: ${SAYS[state]}`}
              onPress={() =>
                onChange(Object.keys(words).map((_, index) => (index === place ? NEXT[state] : (states[index] ?? ""))))
              }
            >
              {MARK[state]}
              {word}
            </Chip>
          );
        })}
      </div>
    </LabelledRow>
  );
}

export function More({ count, onPress }: { count: number; onPress: () => void }) {
  return (
    <Fold onPress={onPress} data-more>
      {t("tick_list.and_more", { count })}
    </Fold>
  );
}
