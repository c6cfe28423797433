/** Warranty terms: each line with its editions and the days they hold from; a new one is written, none is written over. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { put } from "../../api/live";
import { queries } from "../../api/queries";
import { Button, Soft } from "../../kit/parts";
import { dayOf, USES } from "../../kit/words";
import { Heads, Line, Small } from "../goods/parts";
import { TermsForm } from "./TermsForm";
import { COUNTED, OF_PRICE, PRO_RATA } from "./TermsCount";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";
import styled from "styled-components";

const OneTerm = styled(Line)`
  grid-template-columns: 1fr;
`;

export const terms = {
  queryKey: ["house", "terms"],
  queryFn: () => answerOf(api.GET("/api/house/terms")),
};

/** What of the counting is not as most terms are. */
const countSaid = (found: Schema["Terms"]) => [
  found.item ? t("terms_panel.only", { item: found.item }) : "",
  found.pro_rata_months && found.pro_rata !== "whole_term" ? small(PRO_RATA[found.pro_rata ?? "whole_term"]) : "",
  found.months_count === "begun" ? small(COUNTED.begun) : "",
  found.price_taken && found.price_taken !== "today" ? small(OF_PRICE[found.price_taken]) : "",
  ...(found.use_terms ?? []).map((own) =>
    t("terms_panel.for_use", { use: small(USES[own.use]), free: own.free_months, pro_rata: own.pro_rata_months ?? 0 }),
  ),
];

export const termsSaid = (found: Schema["Terms"]) =>
  [
    t("terms_panel.months_free", { count: found.free_months }),
    found.pro_rata_months ? t("terms_panel.more_by_months_used", { pro_rata_months: found.pro_rata_months }) : "",
    found.date_code_allowance_months
      ? t("terms_panel.of_shelf", { date_code_allowance_months: found.date_code_allowance_months })
      : "",
    ...countSaid(found),
    found.excluded_uses?.length
      ? t("terms_panel.not_for", { excluded_uses: found.excluded_uses.map((use) => small(USES[use])).join(", ") })
      : "",
  ]
    .filter(Boolean)
    .join(", ");

export function TermsPanel({ onLeave }: { onLeave: () => void }) {
  const { data: found, error } = useQuery(terms);
  const [picked, setPicked] = useState<string | null>(null);
  const pickedLine = found?.find(({ line }) => line === picked);
  if (!found) return <p>{error?.message}</p>;
  return (
    <>
      <Heads>
        <h2>{pickedLine ? pickedLine.line : t("screens.warranty_terms")}</h2>
        <Button onPress={() => (pickedLine ? setPicked(null) : onLeave())}>
          {pickedLine ? t("terms_panel.all_lines") : t("screens.leave_it")}
        </Button>
      </Heads>
      {pickedLine ? (
        <>
          <TermsForm
            key={pickedLine.editions[0]?.id ?? 0}
            line={pickedLine}
            onDone={(answer) => {
              put(terms.queryKey, answer);
              void queries.invalidateQueries({ queryKey: ["house"] });
            }}
          />
          {pickedLine.editions.length > 0 && (
            <Small aria-label={t("terms_panel.editions")}>
              {pickedLine.editions.map((edition) => (
                <li key={edition.id}>
                  <b>
                    {edition.terms.holds_from
                      ? t("terms_panel.sold_from", { holds_from: dayOf(edition.terms.holds_from) })
                      : t("terms_panel.from_the_beginning")}
                  </b>
                  : {termsSaid(edition.terms)}
                  {edition.in_force && <b> {t("terms_panel.in_force")}</b>}
                  <br />
                  <Soft>
                    {[edition.terms.reference, edition.who, edition.written_at && dayOf(edition.written_at)]
                      .filter(Boolean)
                      .join(", ")}
                  </Soft>
                </li>
              ))}
            </Small>
          )}
        </>
      ) : (
        <div>
          {found.map((row) => {
            const now = row.editions.find((edition) => edition.in_force);
            return (
              <OneTerm key={row.line} onPress={() => setPicked(row.line)}>
                <b>{row.line}</b>
                <small>
                  {now ? termsSaid(now.terms) : <em>{t("terms_panel.no_terms_no_claim_can_be_decided")}</em>}
                </small>
              </OneTerm>
            );
          })}
          {found.length === 0 && <p>{t("terms_panel.no_line_is_in_the_catalogue_yet")}</p>}
        </div>
      )}
    </>
  );
}
