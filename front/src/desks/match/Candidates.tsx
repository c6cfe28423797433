/** What the house has, the best first: what fits, what nearly does, and why the rest does not. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { matchOthers } from "../../api/queries";
import { Button, Soft } from "../../kit/parts";
import { money } from "../../kit/words";
import { locale } from "../../language/catalogue";
import { t } from "../../language/t";

const One = styled(AriaButton)<{ $rejected: boolean }>`
  width: 100%;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  text-align: left;
  padding: 9px 12px;
  cursor: pointer;
  background: var(--sheet);
  border: 1.5px solid var(--line);
  border-radius: 9px;
  line-height: 1.25;
  ${({ $rejected }) => $rejected && "background: transparent; border-style: dashed;"}
  &[data-current="true"] {
    border: 1.5px solid var(--ink);
    box-shadow: inset 0 0 0 1.5px var(--ink);
  }
  b {
    font-size: 17px;
  }
  & > :nth-child(even) {
    text-align: right;
  }
  .points {
    grid-column: 1 / -1;
    font-size: 16px;
    color: var(--soft);
  }
  .against {
    color: var(--failed);
    font-weight: 650;
  }
  .changes {
    color: var(--copper);
    font-weight: 600;
  }
`;
const Fit = styled.span<{ $fit: Schema["Fit"] }>`
  font-size: 16px;
  font-weight: 700;
  color: ${({ $fit }) => ({ exact: "var(--sound)", near: "var(--copper)", rejected: "var(--failed)" })[$fit]};
`;
const List = styled.ul`
  display: grid;
  gap: 7px;
`;
const Why = styled.ul`
  display: grid;
  gap: 3px;
  font-size: 16px;
`;
const FIT_WORDS = {
  exact: t("candidates.fits"),
  near: t("candidates.near_something_differs"),
  rejected: t("candidates.does_not_fit"),
} as const;
const REASONS: Record<string, string> = {
  size: t("candidates.too_large_or_too_small_for_a_spacer"),
  volts: t("candidates.other_volts"),
  positive: t("candidates.positive_on_the_other_side"),
  post: t("candidates.other_posts"),
  rating: t("candidates.too_weak_in_the_cold"),
  capacity: t("candidates.too_few_ah"),
  reserve: t("candidates.too_little_reserve"),
  chemistry: t("candidates.a_type_that_may_not_stand_there"),
  vent: t("candidates.no_vent_tube"),
};
const FIRST = 6;

interface Props {
  found: Schema["MatchView"];
  ask: Schema["AskMatch"];
  current: Schema["Match"] | undefined;
  onPick: (id: number) => void;
}

export function Candidates({ found, ask, current, onPick }: Props) {
  const [all, setAll] = useState(false);
  const [why, setWhy] = useState(false);
  const fitting = found.matches.filter((one) => one.fit !== "rejected");
  const rejected = found.matches.filter((one) => one.fit === "rejected");
  const awaited = new Map(found.awaited.map((one) => [one.item_id, one]));
  const inStock = fitting.filter((one) => one.candidate.in_stock).length;
  const inSight = all ? fitting : fitting.slice(0, FIRST);
  return (
    <>
      <h2>
        {found.fitting === 0
          ? t("candidates.nothing_in_the_catalogue_fits")
          : t("candidates.fit", { fitting: found.fitting })}
        {found.fitting > 0 &&
          (inStock
            ? t("candidates.of_those_shown_in_stock", { in_stock: inStock })
            : t("candidates.none_of_them_is_in_stock"))}
      </h2>
      <List>
        {inSight.map((one) => (
          <li key={one.candidate.item_id}>
            <Candidate
              one={one}
              current={one === current}
              currency={found.currency}
              awaited={awaited.get(one.candidate.item_id)}
              onPick={onPick}
            />
          </li>
        ))}
      </List>
      {fitting.length > FIRST && (
        <Button onPress={() => setAll(!all)}>
          {all ? t("candidates.only_the_best") : t("candidates.more_that_fit", { count: fitting.length - FIRST })}
        </Button>
      )}
      {rejected.length > 0 && (
        <>
          <h2>{t("candidates.nearest_that_does_not_fit")}</h2>
          <List>
            {(all || fitting.length === 0 ? rejected : rejected.slice(0, 2)).map((one) => (
              <li key={one.candidate.item_id}>
                <Candidate
                  one={one}
                  current={one === current}
                  currency={found.currency}
                  awaited={undefined}
                  onPick={onPick}
                />
              </li>
            ))}
          </List>
        </>
      )}
      <Button onPress={() => setWhy(!why)}>
        {why ? t("candidates.enough") : t("candidates.why_the_others_do_not_fit")}
      </Button>
      {why && <Others ask={ask} />}
    </>
  );
}

function Others({ ask }: { ask: Schema["AskMatch"] }) {
  const { data, error } = useQuery(matchOthers(ask));
  if (!data && error) return <Soft role="alert">{error.message}</Soft>;
  if (!data) return <Soft role="status">{t("candidates.counting")}</Soft>;
  return (
    <Why aria-label={t("candidates.why_the_others_do_not_fit")}>
      <li>{t("candidates.do_not_fit_one_may_have_several_reasons", { count: data.total })}</li>
      {data.reasons.map((one) => (
        <li key={one.about}>
          <b>{one.items}</b> {REASONS[one.about] ?? one.about}
        </li>
      ))}
    </Why>
  );
}

function stockWords(one: Schema["Match"], awaited: Schema["Awaited"] | undefined): string {
  if (one.candidate.in_stock) return t("candidates.in_stock", { in_stock: one.candidate.in_stock });
  if (!awaited?.expected_on) return t("candidates.to_order");
  const day = new Date(`${awaited.expected_on}T12:00:00Z`).toLocaleDateString(locale(), {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
  return awaited.ordered
    ? t("candidates.on_order", { ordered: awaited.ordered, day })
    : t("candidates.to_order_here", { day });
}

function Candidate({
  one,
  current,
  currency,
  awaited,
  onPick,
}: {
  one: Schema["Match"];
  current: boolean;
  currency: string;
  awaited: Schema["Awaited"] | undefined;
  onPick: (id: number) => void;
}) {
  const against = one.points.filter((point) => point.stands === "against");
  const changes = one.points.filter(
    (point) => point.stands === "changes" && point.text !== t("candidates.none_in_stock_order_it"),
  );
  const fits = one.points.filter((point) => point.stands === "fits");
  return (
    <One
      $rejected={one.fit === "rejected"}
      data-current={current}
      aria-pressed={current}
      data-fit={one.fit}
      onPress={() => onPick(one.candidate.item_id)}
    >
      <b>{one.candidate.name}</b>
      <b>{money(one.candidate.price_cents, currency)}</b>
      <Fit $fit={one.fit}>{FIT_WORDS[one.fit]}</Fit>
      <Soft>{stockWords(one, awaited)}</Soft>
      <span className="points">
        {against.map((point) => (
          <span key={point.text} className="against">
            {point.text}.{" "}
          </span>
        ))}
        {changes.map((point) => (
          <span key={point.text} className="changes">
            {point.text}.{" "}
          </span>
        ))}
        {one.fit !== "rejected" &&
          fits
            .filter((point) => point.about !== "stock")
            .map((point) => point.text)
            .join(" · ")}
      </span>
    </One>
  );
}
