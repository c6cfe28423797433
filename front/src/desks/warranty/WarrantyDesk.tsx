/** Warranty: the decision, its time, its money, and every question asked on the way to it. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { askAgain, put } from "../../api/live";
import { battery, matchFor, queries, warrantyFor } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Empty, Page, Soft } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { dayOf, money, outcomeWords } from "../../kit/words";
import { InlineMark } from "../../vane/outcomes";
import {
  Act,
  ClaimLine,
  Column,
  Columns,
  ForCustomer,
  Money,
  OutcomeWord,
  Paper,
  Replacement,
  Why,
  Written,
} from "./parts";
import { HandOver } from "./HandOver";
import { Entry } from "../../kit/Entry";
import { centsOf } from "../../kit/money";
import { useWho } from "../../kit/who";
import { OwnCall } from "../check/OwnWord";
import { termsSaid } from "../house/TermsPanel";
import { Timeline } from "./Timeline";
import { t } from "../../language/t";
import { Fault } from "../../kit/formParts";

const PRICES = {
  today: t("warranty_desk.todays_price"),
  list: t("warranty_desk.the_list_price_of_then"),
  paid: t("warranty_desk.what_was_paid"),
} as const;

const CREDITED = new Set(["free", "pro_rata", "ask_the_maker"]);

/** A sum that is taken off. */
const minus = (cents: number, currency: string) => (cents ? `−${money(cents, currency)}` : money(0, currency));

export function WarrantyDesk({ tag }: { tag: number | null }) {
  if (tag === null)
    return (
      <Page>
        <Empty>
          <h1>{t("screens.which_battery")}</h1>
          <p>{t("warranty_desk.type_its_tag_number_and_enter_or_touch_it")}</p>
        </Empty>
      </Page>
    );
  return <OneWarranty tag={tag} />;
}

function OneWarranty({ tag }: { tag: number }) {
  const [search, setSearch] = useSearchParams();
  const replacement = Number(search.get("with")) || null;
  const [price, setPrice] = useState("");
  const priceSaid = centsOf(price, useWho().store.currency);
  const { data: found, error } = useQuery({
    ...warrantyFor(tag, replacement, priceSaid),
    placeholderData: (before) => before,
  });
  const { data: view } = useQuery(battery(tag));
  const { data: matched } = useQuery(matchFor(tag));
  const writeId = useRef(newId());
  const claim = useMutation({
    mutationFn: (handOver: Schema["HandOver"] | null) =>
      answerOf(
        api.POST("/api/batteries/{tag}/claim", {
          params: { path: { tag }, ...writeHeader(writeId.current) },
          body: { replacement_id: replacement, hand_over: handOver, price_cents: priceSaid },
        }),
      ),
    onError: (error) => {
      // refused: the next press is another write; without an answer it is the same one, sent again
      if (error instanceof ApiProblem && error.status < 500) writeId.current = newId();
    },
    onSuccess: (answer) => {
      put(warrantyFor(tag, replacement, priceSaid).queryKey, answer);
      void queries.invalidateQueries({ queryKey: battery(tag).queryKey });
      if (answer.given_tag !== null) void askAgain(["match"], ["goods"], ["shelf"]);
    },
  });
  if (error && !found)
    return (
      <Page>
        <Empty>
          <h2>{error.message}</h2>
        </Empty>
      </Page>
    );
  if (!found || !view) return <Page />;
  const { answer, terms, currency } = found;
  const good = answer.decision === "free" || answer.decision === "pro_rata";
  const picked = matched?.matches.find((one) => one.candidate.item_id === replacement)?.candidate;
  // whoever gives a battery that is here gives it with the claim: one act
  const mayHand = found.claimed ? found.given_tag === null : CREDITED.has(answer.decision) && !answer.price_missing;
  const handsOver = mayHand && (picked?.in_stock ?? 0) > 0;
  const fitting = (matched?.matches ?? []).filter((one) => one.fit !== "rejected");
  return (
    <Columns>
      <Column aria-label={t("warranty_desk.decision")}>
        <div>
          <Soft>
            {tag} · {view.battery.line || t("screens.no_line")} ·{" "}
            <OutcomeWord>
              <InlineMark outcome={view.judgement.outcome} />{" "}
              {outcomeWords(view.judgement.outcome, view.judgement.next_step.key)}
              {view.judgement.age ? ` · ${view.judgement.age.words}` : ""}
            </OutcomeWord>
          </Soft>
          <h1 style={{ color: good ? "var(--sound)" : "var(--failed)" }} data-testid="decision">
            {answer.headline}
          </h1>
          {view.own_call && <OwnCall call={view.own_call} />}
          <ForCustomer>{answer.next_for_customer}.</ForCustomer>
        </div>
        <Timeline answer={answer} />
        <Replacement>
          <Pick
            label={t("warranty_desk.replacement_handed_over")}
            value={replacement === null ? null : String(replacement)}
            onChange={(id) => setSearch(id ? { with: id } : {}, { replace: true })}
            options={fitting.map((one) => ({
              id: String(one.candidate.item_id),
              name: one.candidate.name,
              note: stockWords(money(one.candidate.price_cents, currency), one.candidate.in_stock),
            }))}
            placeholder={t("warranty_desk.pick_one_that_fits")}
          />
        </Replacement>
        {!found.claimed && (answer.price_missing || price) && (
          <Replacement>
            <Entry
              label={
                answer.price_missing
                  ? t("warranty_desk.price_missing", { taken: PRICES[answer.price_missing] })
                  : t("screens.price")
              }
              value={price}
              onChange={setPrice}
              unit={currency}
              name="price"
              problem={claim.error instanceof ApiProblem ? claim.error.of("price_cents") : undefined}
            />
          </Replacement>
        )}
        <Money>
          {found.priced_as && found.replacement_cents === null && (
            <>
              <dt>{t("warranty_desk.todays_price_of", { priced_as: found.priced_as })}</dt>
              <dd>{money(found.price_cents ?? 0, currency)}</dd>
            </>
          )}
          {found.replacement_cents === null || answer.pays_cents === null ? (
            <>
              <dt>{t("warranty_desk.credit_under_warranty")}</dt>
              <dd data-testid="credit">{minus(answer.credit_cents, currency)}</dd>
            </>
          ) : (
            <>
              <dt>{found.replacement_name}</dt>
              <dd>{money(found.replacement_cents, currency)}</dd>
              <dt>{t("warranty_desk.credit_under_warranty")}</dt>
              <dd data-testid="credit">{minus(found.replacement_cents - answer.pays_cents, currency)}</dd>
              {found.core_deposit_cents > 0 && (
                <>
                  <dt>
                    {t("warranty_desk.deposit")}{" "}
                    <Soft>
                      {t("warranty_desk.the_old_battery_stays_here", {
                        core_deposit_cents: money(found.core_deposit_cents, currency),
                      })}
                    </Soft>
                  </dt>
                  <dd>{money(0, currency)}</dd>
                </>
              )}
              {found.tax_words && (
                <>
                  <dt>{found.tax_words}</dt>
                  <dd>{money(found.tax_cents, currency)}</dd>
                </>
              )}
              <dt className="total">{t("warranty_desk.to_pay")}</dt>
              <dd className="total" data-testid="pays">
                {money(answer.pays_cents + found.tax_cents, currency)}
              </dd>
            </>
          )}
        </Money>
        {handsOver && (
          <HandOver
            pieceId={picked?.piece?.id ?? null}
            isBusy={claim.isPending}
            problem={claim.error instanceof ApiProblem ? claim.error : null}
            write={(handOver) => claim.mutate(handOver)}
          />
        )}
        <ClaimLine>
          {found.claimed ? (
            <>
              <Written role="status">
                {t("warranty_desk.claim_written", {
                  t: found.claimed_on ? t("warranty_desk.on", { claimed_on: dayOf(found.claimed_on) }) : "",
                })}
              </Written>
              {found.given_tag !== null && (
                <Act href={`/fitting/${found.given_tag}`}>
                  {t("warranty_desk.given_for_it", { given_tag: found.given_tag })}
                </Act>
              )}
              <Paper href={linkTo("/api/batteries/{tag}/claim.pdf", { tag })} target="_blank">
                {t("warranty_desk.claim_pack")}
              </Paper>
            </>
          ) : (
            CREDITED.has(answer.decision) &&
            !answer.price_missing &&
            !handsOver && (
              <Button $tone="strong" isDisabled={claim.isPending} onPress={() => claim.mutate(null)}>
                {t("warranty_desk.write_the_claim")}
              </Button>
            )
          )}
          <Act href={`/match/${tag}`}>{t("warranty_desk.match_a_replacement")}</Act>
          <Act href={linkTo("/api/batteries/{tag}/slip.pdf", { tag })} target="_blank">
            {t("screens.slip")}
          </Act>
        </ClaimLine>
        {claim.error && !(claim.error instanceof ApiProblem && claim.error.errors.length) && (
          <Fault role="alert">{claim.error.message}</Fault>
        )}
      </Column>
      <Column aria-label={t("warranty_desk.why")} tabIndex={0}>
        <h2>{t("warranty_desk.why")}</h2>
        <Why>
          {answer.reasons.map((reason) => (
            <li key={reason.asks}>
              <svg
                width="22"
                height="22"
                viewBox="0 0 22 22"
                role="img"
                aria-label={reason.holds ? t("warranty_desk.holds") : t("warranty_desk.does_not_hold")}
              >
                {reason.holds ? (
                  <path d="M3 11 l6 6 l10 -13" fill="none" stroke="var(--sound)" strokeWidth="3" />
                ) : (
                  <path d="M4 4 L18 18 M18 4 L4 18" stroke="var(--failed)" strokeWidth="3" />
                )}
              </svg>
              <span>
                {reason.asks}
                <small>{reason.found}</small>
              </span>
            </li>
          ))}
        </Why>
        {terms && <Soft>{[termsSaid(terms), terms.reference].filter(Boolean).join(". ")}</Soft>}
        <Soft>{t("warranty_desk.judged_under_house_rules", { rules_version: view.judgement.rules_version })}</Soft>
      </Column>
    </Columns>
  );
}

const stockWords = (price: string, inStock: number) =>
  inStock
    ? t("warranty_desk.in_stock", { price_cents: price, in_stock: inStock })
    : t("warranty_desk.none_in_stock", { price_cents: price });
