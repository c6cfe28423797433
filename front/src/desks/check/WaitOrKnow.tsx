/** For who cannot wait: what can be said now, in ten minutes, tonight, in two days; touched, which step buys it. Folded until it is
 * asked for. Where the rules' word and the odds lie far apart, one line says so. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { lookAhead } from "../../api/queries";
import { Soft } from "../../kit/parts";
import { OUTCOMES } from "../../kit/words";
import { t } from "../../language/t";
import { SmallVane } from "../../vane/SmallVane";

const Fold = styled(AriaButton)`
  position: absolute; /* in the empty corner of the vane: it takes no room from what is asked */
  right: 0;
  bottom: 0;
  min-height: 44px;
  padding: 0 2px;
  border: none;
  background: none;
  font-size: 16px;
  color: var(--soft);
  cursor: pointer;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
`;
const Row = styled.div`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 4px;
`;
const One = styled(AriaButton)`
  display: grid;
  justify-items: center;
  padding: 4px 2px;
  min-height: 44px;
  border: none;
  border-radius: 8px;
  background: none;
  font-size: 15px;
  line-height: 1.15;
  cursor: pointer;
  small {
    font-size: 15px;
    color: var(--soft);
  }
  &[data-hovered],
  &[aria-pressed="true"] {
    background: var(--shelf);
  }
`;

const WHEN: Record<string, string> = {
  now: t("wait_or_know.now"),
  ten_minutes: t("wait_or_know.in_ten_minutes"),
  tonight: t("wait_or_know.tonight"),
  two_days: t("wait_or_know.in_two_days"),
};
const OPEN: ReadonlySet<Schema["Outcome"]> = new Set(["cannot_tell", "needs_charge"]);
const ENDED: ReadonlySet<Schema["Outcome"]> = new Set(["sound", "worn_out", "dead_cell", "leaks_charge"]);
const pct = (odds: number) => Math.round(odds * 100);

/** In a corner of the vane, while it is open. */
export function CannotWait({
  outcome,
  unfolded,
  onPress,
}: {
  outcome: Schema["Outcome"];
  unfolded: boolean;
  onPress: () => void;
}) {
  if (unfolded || !OPEN.has(outcome)) return null;
  return <Fold onPress={onPress}>{t("wait_or_know.cannot_wait")}</Fold>;
}

interface Props {
  check: Schema["CheckFile"];
  judgement: Schema["Judgement"];
  unfolded: boolean;
}

export function WaitOrKnow({ check, judgement, unfolded }: Props) {
  const [touched, setTouched] = useState<string | null>(null);
  const isOpen = OPEN.has(judgement.outcome);
  const asks = isOpen ? unfolded : ENDED.has(judgement.outcome);
  const { data } = useQuery({ ...lookAhead(check), enabled: asks });
  if (ENDED.has(judgement.outcome)) return <Apart data={data} outcome={judgement.outcome} />;
  if (!isOpen || !unfolded) return null;
  const horizons = data?.ahead ?? [];
  const at = horizons.find(({ when }) => when === touched);
  if (data && horizons.length === 0) return <Soft>{t("wait_or_know.nothing_was_read_that_tells")}</Soft>;
  return (
    <div>
      <Row role="group" aria-label={t("wait_or_know.what_can_be_said_and_when")} data-testid="wait-or-know">
        {horizons.map(({ when, outcome, odds }) => (
          <One key={when} aria-pressed={when === touched} onPress={() => setTouched(when === touched ? null : when)}>
            <SmallVane outcome={outcome} odds={odds} />
            <b>{WHEN[when]}</b>
            <small>{t("wait_or_know.outcome_pct", { outcome: OUTCOMES[outcome], pct: pct(odds) })}</small>
          </One>
        ))}
      </Row>
      {at && <Soft>{at.words ?? t("wait_or_know.as_it_stands_nothing_more_is_read")}</Soft>}
    </div>
  );
}

/** The rules have the word; where many like it are otherwise it is said. */
function Apart({ data, outcome }: { data: Schema["Ahead"] | undefined; outcome: Schema["Outcome"] }) {
  const share = data?.odds?.disagrees;
  if (!share) return null;
  const of = Math.max(2, Math.round(1 / share));
  return (
    <Soft data-testid="odds-apart">
      {outcome === "sound"
        ? t("wait_or_know.the_rules_say_sound_one_in_like_this_is_not", { of })
        : t("wait_or_know.the_rules_say_one_in_like_this_is_sound", { outcome: OUTCOMES[outcome], of })}
    </Soft>
  );
}
