/** One battery's life in this house: every take-in, reading and move, corrections included. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, writeHeader, type Reading, type Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { learn } from "../../api/live";
import { life } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { newId } from "../../kit/clock";
import { Button, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { CAME_IN, CHEMISTRIES, dayOf, mayLead, PLACES, timeOf } from "../../kit/words";
import { InlineMark } from "../../vane/outcomes";
import { summaryOf } from "../check/rungs";
import { kindWord } from "../../kit/words";
import { Outcome, Paging } from "./parts";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";
import { OwnCall } from "../check/OwnWord";

const Sheet = styled(Page)`
  overflow: auto;
  padding: 16px 24px;
  align-content: start;
  gap: 10px;
  max-width: 980px;
  h1 {
    font-size: 28px;
  }
`;
const Event = styled.li`
  display: grid;
  grid-template-columns: 104px 1fr;
  gap: 12px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
  font-size: 16px;
  line-height: 1.3;
  s {
    color: var(--soft);
  }
`;
const Act = styled(Link)`
  ${touchLink}
  margin-right: 16px;
`;

export function LifeDesk({ tag, who }: { tag: number; who: Schema["Me"] }) {
  const { store } = who;
  const { data: found, error } = useQuery(life(tag));
  if (error && !found)
    return (
      <Page>
        <Empty>
          <h1>{error.message}</h1>
        </Empty>
      </Page>
    );
  if (!found) return <Outline />;
  const { check } = found;
  const saysOf = (id: string | null | undefined) =>
    check.judgement.findings.find((finding) => finding.reading_id === id);
  const events = [
    ...found.take_ins.map((entry, index) => ({
      at: entry.written_at,
      who: entry.who,
      what: (
        <>
          {index === 0 ? t("life_desk.taken_in") : t("life_desk.label_corrected")}:{" "}
          {small(CAME_IN[entry.take_in.context.came_in ?? "carried_in"])},{" "}
          {entry.take_in.battery?.line || t("screens.no_line")},{" "}
          {CHEMISTRIES[entry.take_in.battery?.chemistry ?? "flooded"]},{" "}
          {entry.take_in.battery?.rating
            ? `${entry.take_in.battery.rating.amps} ${entry.take_in.battery.rating.scale}`
            : t("life_desk.no_rating")}
          {entry.take_in.battery?.group_code
            ? t("life_desk.group", { group_code: entry.take_in.battery.group_code })
            : ""}
        </>
      ),
    })),
    ...check.readings.map((kept) => ({
      at: kept.reading.taken_at,
      who: kept.who,
      what: kept.corrected ? (
        <s>
          {titleOf(kept.reading)}: {summaryOf(kept.reading as Reading, check.battery, store)}{" "}
          {t("life_desk.corrected_later")}
        </s>
      ) : (
        <>
          <b>{titleOf(kept.reading)}</b>{" "}
          {summaryOf(kept.reading as Reading, check.battery, store, saysOf(kept.reading.id))}
          {kept.reading.replaces ? <Soft> {t("life_desk.a_correction")}</Soft> : null}
        </>
      ),
    })),
    ...check.remarks.map((one) => ({
      at: one.at,
      who: one.who,
      what: <>{one.what === "story" ? t("own_word.they_say", { text: one.text }) : one.text}</>,
    })),
    ...(check.own_call
      ? [{ at: check.own_call.at, who: check.own_call.who, what: <OwnCall call={check.own_call} /> }]
      : []),
    ...found.stays.map((stay) => ({
      at: stay.moved_at,
      who: stay.who,
      what: <>{t("life_desk.put", { place: PLACES[stay.place] })}</>,
    })),
  ].sort((one, other) => one.at.localeCompare(other.at));
  return (
    <Sheet aria-label={t("screens.life")}>
      <h1>
        {tag} · {check.battery.line || t("screens.no_line")}
      </h1>
      <Outcome>
        <InlineMark outcome={check.judgement.outcome} />{" "}
        {t("life_desk.house_rules", {
          headline: check.judgement.headline,
          sureness: check.judgement.sureness,
          rules_version: check.judgement.rules_version,
          words: check.judgement.age ? `. ${check.judgement.age.words}` : "",
        })}
      </Outcome>
      {found.trend && (
        <p data-testid="trend">
          <b>{t("life_desk.over_its_visits")}</b> {found.trend.words}.
        </p>
      )}
      <div>
        <Act href={`/check/${tag}`}>{t("life_desk.open_its_check")}</Act>
        {check.undone && <b>{t("screens.taken_in_by_mistake_and_taken_back")} </b>}
        {found.sold_for !== null && (
          <Act href={`/life/${found.sold_for}`}>{t("life_desk.sold_for", { tag: found.sold_for })}</Act>
        )}
        {found.replaced_by !== null && (
          <Act href={`/life/${found.replaced_by}`}>{t("life_desk.replaced_by", { tag: found.replaced_by })}</Act>
        )}
        {found.sold && <Act href={`/fitting/${tag}`}>{t("life_desk.its_fitting_list")}</Act>}
        {check.customer_id !== null && !check.customer_erased && (
          <Act href={`/customers/${check.customer_id}`}>{t("life_desk.its_customer")}</Act>
        )}
        <Act href={linkTo("/api/batteries/{tag}/slip.pdf", { tag })} target="_blank">
          {t("screens.slip")}
        </Act>
        {check.judgement.outcome === "watch" && check.judgement.watch_until && (
          <Act href={linkTo("/api/batteries/{tag}/recall.pdf", { tag })} target="_blank">
            {t("life_desk.letter_to_test_it_again")}
          </Act>
        )}
        <Act href={linkTo("/api/batteries/{tag}/check-file", { tag })} target="_blank">
          {t("life_desk.check_file")}
        </Act>
      </div>
      {mayLead(who) && <Erase view={check} />}
      <ol>
        {events.map((event, index) => (
          <Event key={index}>
            <Soft>
              {dayOf(event.at)} {timeOf(event.at)}
              <br />
              {event.who}
            </Soft>
            <span>{event.what}</span>
          </Event>
        ))}
      </ol>
    </Sheet>
  );
}

const titleOf = ({ kind }: { kind?: string }) => kindWord((kind ?? "look") as NonNullable<Reading["kind"]>);

/** Take name, phone and plate away, everywhere: asked twice, for nothing brings them back. */
function Erase({ view }: { view: Schema["CheckView"] }) {
  const [sure, setSure] = useState(false);
  const [writeId] = useState(newId);
  const erase = useMutation({
    mutationFn: () =>
      answerOf(
        api.POST("/api/batteries/{tag}/erase-customer", {
          params: { path: { tag: view.tag }, ...writeHeader(writeId) },
          body: {},
        }),
      ),
    onSuccess: learn,
  });
  const name = [view.customer_name, view.customer_phone, view.customer_plate].filter(Boolean).join(", ");
  if (view.customer_erased) return <Soft>{t("life_desk.its_customer_was_erased_what_was_measured")}</Soft>;
  if (!name) return null;
  if (!sure) return <Button onPress={() => setSure(true)}>{t("life_desk.erase", { name })}</Button>;
  return (
    <div>
      <p>{t("life_desk.name_phone_and_plate_go_from_this_and", { name })}</p>
      <Paging>
        <Button $tone="copper" isDisabled={erase.isPending} onPress={() => erase.mutate()}>
          {t("life_desk.erase_for_good")}
        </Button>
        <Button onPress={() => setSure(false)}>{t("screens.leave_it")}</Button>
      </Paging>
      {erase.error && <p role="alert">{erase.error.message}</p>}
    </div>
  );
}
