/** The one that is looked at: old and new over one another, what must change, what the dearer one buys, how to get it. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { api, ApiProblem, answerOf, writeHeader, type Schema } from "../../api/client";
import { askAgain } from "../../api/live";
import { reference } from "../../api/queries";
import type { Size } from "../../case/Case";
import { newId } from "../../kit/clock";
import { Button, Caution, Soft } from "../../kit/parts";
import { Better } from "./Better";
import { Overlay } from "./Overlay";
import { SellForm } from "./SellForm";
import { locale } from "../../language/catalogue";
import { t } from "../../language/t";

const TradeLine = styled.span`
  color: var(--copper);
`;
const Lines = styled.section`
  display: grid;
  gap: 7px;
  font-size: 16px;
  line-height: 1.28;
`;

const TO = styled.ul`
  display: grid;
  gap: 5px;
  font-size: 16px;
  line-height: 1.25;
  list-style: square;
  padding-left: 18px;
`;
const Act = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 4px 14px;
  border-radius: 8px;
  border: 1.5px solid var(--ink);
  color: var(--ink);
  font-weight: 650;
  text-decoration: none;
  cursor: pointer;
`;
const Acts = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
`;

interface Props {
  found: Schema["MatchView"];
  current: Schema["Match"];
  tag: number | null;
  vehicleId: number | null;
  store: Schema["StoreView"];
  /** Told when one is being sold. */
  onSell: (match: Schema["Match"]) => void;
}

/** A candidate's outside as the drawings take it. */
export const sizeOf = (one: Schema["Candidate"], like: Size | undefined): Size => ({
  code: one.group_code || t("chosen.own_size"),
  system: like?.system ?? "",
  length_mm: one.length_mm ?? 0,
  width_mm: one.width_mm ?? 0,
  height_mm: one.height_mm ?? 0,
  nominal_volts: one.nominal_volts ?? 12,
  positive_side: one.positive_side ?? "right",
  post: one.post ?? "top",
  same_as: one.same_as ?? "",
  source: like?.source ?? "",
  standing: like?.standing ?? "",
});

/** What the tape was laid on. */
const MEASURED = { tray: t("chosen.the_tray"), old: t("chosen.the_old_one") };

/** The place it goes into, drawn: the size asked for, or what was measured. */
export function placeOf(asked: Schema["Requirement"], sizes: Record<string, Size>, fresh: Size): Size {
  const { measured } = asked;
  if (!measured) return sizes[asked.group_code ?? ""] ?? fresh;
  return {
    ...fresh,
    code: "",
    length_mm: Math.round(measured.length_mm),
    width_mm: Math.round(measured.width_mm),
    height_mm: Math.round(measured.height_mm),
    positive_side: measured.positive_side ?? asked.positive_side ?? fresh.positive_side,
    post: measured.post ?? fresh.post,
  };
}

export function Chosen({ found, current, tag, vehicleId, store, onSell }: Props) {
  const [selling, setSelling] = useState<number | null>(null);
  const { data: known } = useQuery(reference);
  const { candidate } = current;
  const fresh = sizeOf(candidate, found.sizes[candidate.group_code]);
  const old = found.requirement ? placeOf(found.requirement, found.sizes, fresh) : fresh;
  const measuredOf = found.requirement?.measured?.of;
  const better = found.upgrades.find((one) => one.item_id === candidate.item_id);
  const than = found.matches.find((one) => one.candidate.item_id === better?.than_id)?.candidate;
  const awaited = found.awaited.find((one) => one.item_id === candidate.item_id);
  return (
    <>
      <h2>
        <TradeLine>- - {measuredOf ? MEASURED[measuredOf] : t("chosen.old", { code: old.code })}</TradeLine>
        {t("chosen.solid_new", { code: fresh.code })}
      </h2>
      <Overlay old={old} fresh={fresh} store={store} />
      <TO>
        {current.to_do.map((job) => (
          <li key={job}>{job}</li>
        ))}
      </TO>
      {better && than && <Better better={better} than={than} candidate={candidate} currency={found.currency} />}
      {current.fit !== "rejected" && (
        <>
          {candidate.in_stock || selling === candidate.item_id ? (
            <SellForm
              key={candidate.item_id}
              candidate={candidate}
              found={found}
              tag={tag}
              vehicleId={vehicleId}
              onOpen={() => {
                setSelling(candidate.item_id);
                onSell(current);
              }}
            />
          ) : (
            <NotHere
              candidate={candidate}
              awaited={awaited}
              tag={tag}
              nearest={found.matches.find((one) => one.fit !== "rejected" && one.candidate.in_stock)?.candidate}
              advice={known?.cautions["no_stock"] ?? []}
            />
          )}
          {tag !== null && (
            <Acts>
              <Act href={`/warranty/${tag}?with=${candidate.item_id}`}>{t("chosen.price_it_against_the_warranty")}</Act>
            </Acts>
          )}
        </>
      )}
      {known?.cautions["fit"]?.map((text) => (
        <Caution key={text}>{text}</Caution>
      ))}
    </>
  );
}

function NotHere({
  candidate,
  awaited,
  tag,
  nearest,
  advice,
}: {
  candidate: Schema["Candidate"];
  awaited: Schema["Awaited"] | undefined;
  tag: number | null;
  nearest: Schema["Candidate"] | undefined;
  advice: string[];
}) {
  const writeId = useRef(newId());
  const order = useMutation({
    mutationFn: () =>
      answerOf(
        api.POST("/api/orders", {
          params: writeHeader(writeId.current),
          body: {
            item_id: candidate.item_id,
            pieces: 1,
            for_tag: tag,
            note: tag === null ? t("chosen.asked_for_at_the_counter") : t("chosen.for", { tag }),
            expected_on: awaited?.expected_on ?? null,
          },
        }),
      ),
    onSuccess: () => {
      writeId.current = newId();
      void askAgain(["match"], ["orders"]);
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status < 500) writeId.current = newId();
    },
  });
  const others = Object.entries(awaited?.elsewhere ?? {});
  return (
    <Lines aria-label={t("chosen.not_in_stock")}>
      {others.map(([store, pieces]) => (
        <p key={store}>
          <b>{store}</b> {t("chosen.has", { pieces })}
        </p>
      ))}
      {awaited?.expected_on ? (
        <p>
          {t("chosen.on", {
            t: awaited.ordered ? t("chosen.on_order", { ordered: awaited.ordered }) : t("chosen.ordered_now_it_is"),
            t_2: awaited.ordered ? t("screens.due") : t("chosen.here"),
          })}{" "}
          <b>{dayWords(awaited.expected_on)}</b>.
        </p>
      ) : (
        <p>{t("chosen.nobody_is_written_in_who_brings_it")}</p>
      )}
      {nearest && (
        <p>
          {t("chosen.in_stock_now")} <b>{nearest.name}</b>
          {t("chosen.which_fits_too")}
        </p>
      )}
      <div>
        <Button $tone="strong" onPress={() => order.mutate()} isDisabled={order.isPending || order.isSuccess}>
          {order.isSuccess ? t("chosen.it_is_on_the_order_list") : t("chosen.put_it_on_the_order_list")}
        </Button>
      </div>
      {order.error && <p role="alert">{order.error.message}</p>}
      {advice.map((text) => (
        <Soft key={text}>{text}</Soft>
      ))}
    </Lines>
  );
}

export const dayWords = (day: string) =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString(locale(), {
    weekday: "long",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
