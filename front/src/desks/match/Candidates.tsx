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
const FIT_WORDS = { exact: t("● fits"), near: t("◐ near: something differs"), rejected: t("✕ does not fit") } as const;
const REASONS: Record<string, string> = {
  size: t("too large, or too small for a spacer"),
  volts: t("other volts"),
  positive: t("positive on the other side"),
  post: t("other posts"),
  rating: t("too weak in the cold"),
  capacity: t("too few Ah"),
  reserve: t("too little reserve"),
  chemistry: t("a type that may not stand there"),
  vent: t("no vent tube"),
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
        {found.fitting === 0 ? t("Nothing in the catalogue fits") : t("{0} fit", found.fitting)}
        {found.fitting > 0 && (inStock ? t("; {0} of those shown in stock", inStock) : t("; none of them is in stock"))}
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
          {all ? t("Only the best") : t("{0} more that fit", fitting.length - FIRST)}
        </Button>
      )}
      {rejected.length > 0 && (
        <>
          <h2>{t("Nearest that does not fit")}</h2>
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
      <Button onPress={() => setWhy(!why)}>{why ? t("Enough") : t("Why the others do not fit")}</Button>
      {why && <Others ask={ask} />}
    </>
  );
}

function Others({ ask }: { ask: Schema["AskMatch"] }) {
  const { data, error } = useQuery(matchOthers(ask));
  if (!data && error) return <Soft role="alert">{error.message}</Soft>;
  if (!data) return <Soft role="status">{t("Counting…")}</Soft>;
  return (
    <Why aria-label={t("Why the others do not fit")}>
      <li>{t("{0} do not fit; one may have several reasons:", data.total)}</li>
      {data.reasons.map((one) => (
        <li key={one.about}>
          <b>{one.items}</b> {REASONS[one.about] ?? one.about}
        </li>
      ))}
    </Why>
  );
}

function stockWords(one: Schema["Match"], awaited: Schema["Awaited"] | undefined): string {
  if (one.candidate.in_stock) return t("{0} in stock", one.candidate.in_stock);
  if (!awaited?.expected_on) return t("to order");
  const day = new Date(`${awaited.expected_on}T12:00:00Z`).toLocaleDateString(locale(), {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
  return awaited.ordered ? t("{0} on order, {1}", awaited.ordered, day) : t("to order: here {0}", day);
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
    (point) => point.stands === "changes" && point.text !== t("None in stock: order it"),
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
