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
          {index === 0 ? t("Taken in") : t("Label corrected")}:{" "}
          {small(CAME_IN[entry.take_in.context.came_in ?? "carried_in"])}, {entry.take_in.battery?.line || t("no line")}
          , {CHEMISTRIES[entry.take_in.battery?.chemistry ?? "flooded"]},{" "}
          {entry.take_in.battery?.rating
            ? `${entry.take_in.battery.rating.amps} ${entry.take_in.battery.rating.scale}`
            : t("no rating")}
          {entry.take_in.battery?.group_code ? t(", group {0}", entry.take_in.battery.group_code) : ""}
        </>
      ),
    })),
    ...check.readings.map((kept) => ({
      at: kept.reading.taken_at,
      who: kept.who,
      what: kept.corrected ? (
        <s>
          {titleOf(kept.reading)}: {summaryOf(kept.reading as Reading, check.battery, store)} {t("corrected later")}
        </s>
      ) : (
        <>
          <b>{titleOf(kept.reading)}</b>{" "}
          {summaryOf(kept.reading as Reading, check.battery, store, saysOf(kept.reading.id))}
          {kept.reading.replaces ? <Soft> {t("(a correction)")}</Soft> : null}
        </>
      ),
    })),
    ...found.stays.map((stay) => ({
      at: stay.moved_at,
      who: stay.who,
      what: <>{t("Put: {0}", PLACES[stay.place])}</>,
    })),
  ].sort((one, other) => one.at.localeCompare(other.at));
  return (
    <Sheet aria-label={t("Life")}>
      <h1>
        {tag} · {check.battery.line || t("no line")}
      </h1>
      <Outcome>
        <InlineMark outcome={check.judgement.outcome} />{" "}
        {t(
          "{0}, {1} (house rules {2}){3}",
          check.judgement.headline,
          check.judgement.sureness,
          check.judgement.rules_version,
          check.judgement.age ? `. ${check.judgement.age.words}` : "",
        )}
      </Outcome>
      {found.trend && (
        <p data-testid="trend">
          <b>{t("Over its visits")}</b> {found.trend.words}.
        </p>
      )}
      <div>
        <Act href={`/check/${tag}`}>{t("Open its check")}</Act>
        {check.undone && <b>{t("Taken in by mistake and taken back.")} </b>}
        {found.sold && <Act href={`/fitting/${tag}`}>{t("Its fitting list")}</Act>}
        {check.customer_id !== null && !check.customer_erased && (
          <Act href={`/customers/${check.customer_id}`}>{t("Its customer")}</Act>
        )}
        <Act href={linkTo("/api/batteries/{tag}/slip.pdf", { tag })} target="_blank">
          {t("Slip")}
        </Act>
        {check.judgement.outcome === "watch" && check.judgement.watch_until && (
          <Act href={linkTo("/api/batteries/{tag}/recall.pdf", { tag })} target="_blank">
            {t("Letter to test it again")}
          </Act>
        )}
        <Act href={linkTo("/api/batteries/{tag}/check-file", { tag })} target="_blank">
          {t("Check file")}
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
  if (view.customer_erased) return <Soft>{t("Its customer was erased; what was measured stays.")}</Soft>;
  if (!name) return null;
  if (!sure) return <Button onPress={() => setSure(true)}>{t("Erase {0}", name)}</Button>;
  return (
    <div>
      <p>
        {t(
          "Name, phone and plate go from this and every other battery of {0}. Nothing brings them back; what was measured stays, and that it was done is on record.",
          name,
        )}
      </p>
      <Paging>
        <Button $tone="copper" isDisabled={erase.isPending} onPress={() => erase.mutate()}>
          {t("Erase for good")}
        </Button>
        <Button onPress={() => setSure(false)}>{t("Leave it")}</Button>
      </Paging>
      {erase.error && <p role="alert">{erase.error.message}</p>}
    </div>
  );
}
