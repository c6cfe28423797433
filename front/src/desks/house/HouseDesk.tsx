/** The House desk: the shop itself, who works in it, what is still missing for the next piece of work, what was changed. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { put } from "../../api/live";
import { house, queries } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { Button, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { dayOf } from "../../kit/words";
import { Figures, Acts, Column, Columns, Fault, Heads, Line, Small } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { Changes } from "./Changes";
import { Logo, PaperFields } from "./PaperFields";
import { PersonForm } from "./PersonForm";
import { StoresPanel } from "./StoresPanel";
import { TermsPanel } from "./TermsPanel";
import { shopOf, ShopFields, fieldsOf } from "./ShopFields";
import { ROLE_NAMES } from "./words";
import { numberOf } from "../../kit/units";
import { Entry } from "../../kit/Entry";
import { t } from "../../language/t";
import { FormStack, Stack } from "../../kit/layout";

const Links = styled.span`
  display: inline-flex;
  gap: 16px;
`;

const Row = styled(Line)`
  grid-template-columns: minmax(0, 1fr) auto;
  b {
    font-size: 18px;
  }
`;
const To = styled(Link)`
  ${touchLink}
`;

/** What the second column is. */
const BESIDE: Record<string, string> = {
  null: t("screens.what_was_changed"),
  terms: t("screens.warranty_terms"),
  stores: t("screens.stores"),
};

export function HouseDesk({ who }: { who: Schema["Me"] }) {
  const { data: found, error } = useQuery(house);
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<number | "new" | null>(null);
  // the terms have an address of their own: what is missing leads there
  const picked = params.has("terms") ? "terms" : params.has("stores") ? "stores" : chosen;
  function setPicked(next: number | "new" | "terms" | "stores" | null) {
    setChosen(typeof next === "number" || next === "new" ? next : null);
    setParams(next === "terms" || next === "stores" ? { [next]: "" } : {}, { replace: true });
  }
  if (!found)
    return error ? <Page><Empty><h1>{t("screens.the_house")}</h1><p>{error.message}</p></Empty></Page> : <Outline />; // prettier-ignore
  const took = (answer: Schema["HouseView"]) => {
    put(house.queryKey, answer);
    void queries.invalidateQueries({ queryKey: ["house", "changes"] });
    setPicked(null);
  };
  const person = found.people.find(({ id }) => id === picked);
  return (
    <Columns>
      <Column aria-label={t("screens.the_house")}>
        <Heads>
          <h1>{t("screens.the_house")}</h1>
          <Links>
            <To href="/equipment">{t("house_desk.equipment_and_hours")}</To>
            <To href="/rules">{t("screens.house_rules")}</To>
          </Links>
        </Heads>
        {found.missing.length > 0 && (
          <section aria-label={t("house_desk.still_missing")}>
            <h2>{t("house_desk.still_missing")}</h2>
            <Small>
              {found.missing.map((miss) => (
                <li key={miss.what}>
                  {miss.where === "/house" ? <b>{miss.what}</b> : <To href={miss.where}>{miss.what}</To>}:{" "}
                  {miss.without_it}
                </li>
              ))}
            </Small>
          </section>
        )}
        <Heads>
          <h2>{t("house_desk.people")}</h2>
          <Button onPress={() => setPicked("new")}>{t("screens.write_somebody_in")}</Button>
        </Heads>
        <div>
          {found.people.map((row) => (
            <Row
              key={row.id}
              aria-pressed={row.id === picked}
              isDisabled={!row.may_change}
              onPress={() => setPicked(row.id)}
            >
              <b>{row.name}</b>
              <Soft>
                {ROLE_NAMES[row.role]}
                {row.left_at && t("house_desk.left", { left_at: dayOf(row.left_at) })}
              </Soft>
            </Row>
          ))}
        </div>
        {who.role === "owner" && (
          <Heads>
            <h2>{t("screens.stores")}</h2>
            <Button onPress={() => setPicked("stores")}>{t("house_desk.compare_stores")}</Button>
          </Heads>
        )}
        <Heads>
          <h2>{t("screens.warranty_terms")}</h2>
          <Button onPress={() => setPicked("terms")}>{t("house_desk.lines_and_editions")}</Button>
        </Heads>
        <ShopForm found={found} onDone={took} />
        <Logo found={found} onDone={took} />
        <BackupLine found={found} onDone={(answer) => put(house.queryKey, answer)} />
      </Column>
      <Column aria-label={BESIDE[String(picked)] ?? t("house_desk.one_person")}>
        {picked === null ? (
          <Changes />
        ) : picked === "terms" ? (
          <TermsPanel onLeave={() => setPicked(null)} />
        ) : picked === "stores" ? (
          <StoresPanel onLeave={() => setPicked(null)} />
        ) : (
          <PersonForm
            key={String(picked)}
            row={person ?? null}
            owns={who.role === "owner"}
            isOwner={who.role === "owner" || !found.people.some(({ role, left_at }) => role === "owner" && !left_at)}
            onDone={took}
            onLeave={() => setPicked(null)}
          />
        )}
      </Column>
    </Columns>
  );
}

/** What of the shop has a place for its fault. */
const FIELDS = [
  "name", "currency", "time_zone", "bay_temperature_c", "idle_minutes", "tax_name", "tax_pct", "paper_head", "paper_foot",
]; // prettier-ignore

interface ShopProps {
  found: Schema["HouseView"];
  onDone: (answer: Schema["HouseView"]) => void;
}

function ShopForm({ found, onDone }: ShopProps) {
  const [typed, setTyped] = useState(() => fieldsOf(found.shop));
  const [seen, setSeen] = useState(found);
  const isChanged = JSON.stringify(shopOf(typed)) !== JSON.stringify(shopOf(fieldsOf(seen.shop)));
  if (found.edition !== seen.edition && !isChanged) {
    // somebody else changed it, and nothing is typed here that would be lost
    setSeen(found);
    setTyped(fieldsOf(found.shop));
  }
  const [times, setTimes] = useState("");
  const otherMoney = typed.currency !== seen.shop.currency && found.priced_items > 0;
  const write = useWrite(
    (shop: Schema["ShopSettings"], named) =>
      answerOf(
        api.PUT("/api/house/shop", {
          params: named,
          body: { shop, based_on: seen.edition, prices_times: otherMoney ? numberOf(times) : null },
        }),
      ),
    (answer) => {
      setSeen(answer);
      setTyped(fieldsOf(answer.shop));
      onDone(answer);
    },
  );
  const fields = [...FIELDS.map((field) => `shop.${field}`), "prices_times"];
  const beside = write.beside(...fields);
  return (
    <FormStack
      aria-label={t("screens.the_shop")}
      onSubmit={(event) => {
        event.preventDefault();
        if (isChanged) write.write(shopOf(typed));
      }}
    >
      <h2>{t("screens.the_shop")}</h2>
      <ShopFields typed={typed} onChange={setTyped} of={write.of} zones={found.zones} languages={found.languages} />
      {otherMoney && (
        <Figures>
          <Entry
            label={t("house_desk.every_price_times", { count: found.priced_items })}
            value={times}
            onChange={setTimes}
            name="prices_times"
            placeholder={t("house_desk.one_keeps_the_figures")}
            problem={write.of("prices_times")}
          />
        </Figures>
      )}
      <PaperFields typed={typed} onChange={setTyped} of={write.of} />
      {beside && <Fault role="alert">{beside}</Fault>}
      {found.edition !== seen.edition && (
        <Acts role="status">
          <Soft>
            {t("house_desk.changed_meanwhile_to", {
              name: found.shop.name,
              currency: found.shop.currency,
              time_zone: found.shop.time_zone,
            })}
          </Soft>
          <Button
            onPress={() => {
              setSeen(found);
              setTyped(fieldsOf(found.shop));
            }}
          >
            {t("house_desk.take_what_stands_now")}
          </Button>
          <Button onPress={() => setSeen(found)}>{t("house_desk.keep_on_with_mine")}</Button>
        </Acts>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={!isChanged || write.pending}>
          {t("house_desk.save")}
        </Button>
      </Acts>
    </FormStack>
  );
}

const WAIT_MS = 1500;
const WAIT_FOR_MS = 60_000;

/** How old the last good backup is, and one more at a press. It is made beside the server: the desk looks until it is there. */
function BackupLine({ found, onDone }: ShopProps) {
  const { backup } = found;
  const [asking, setAsking] = useState<number | null>(null);
  const ask = useWrite(
    (_: null, named) => answerOf(api.POST("/api/house/backup", { params: named, body: {} })),
    (answer) => {
      setAsking(Date.now());
      onDone(answer);
    },
  );
  const was = useRef(backup.made_at);
  useEffect(() => {
    if (asking === null) was.current = backup.made_at;
  }, [asking, backup.made_at]);
  useEffect(() => {
    if (asking === null) return;
    const timer = window.setInterval(() => {
      if (backup.made_at !== was.current || backup.problem || Date.now() - asking > WAIT_FOR_MS) setAsking(null);
      else void queries.invalidateQueries({ queryKey: house.queryKey, exact: true });
    }, WAIT_MS);
    return () => clearInterval(timer);
  }, [asking, backup.made_at, backup.problem]);
  const age =
    backup.days_old === null
      ? t("house_desk.no_backup_was_made_yet")
      : t("house_desk.last_good_backup_rows_mb", {
          t:
            backup.days_old === 0
              ? t("house_desk.today")
              : backup.days_old === 1
                ? t("house_desk.yesterday")
                : t("house_desk.days_ago", { days_old: String(backup.days_old) }),
          rows: String(backup.rows),
          megabytes: String(backup.megabytes),
        });
  return (
    <Stack $gap={6} as="section" aria-label={t("house_desk.backup")}>
      <Heads>
        <h2>{t("house_desk.backup")}</h2>
        <Button isDisabled={ask.pending || asking !== null} onPress={() => ask.write(null)}>
          {asking === null ? t("house_desk.make_one_now") : t("house_desk.it_is_being_made")}
        </Button>
      </Heads>
      <p>
        {age} {backup.made_at && <Soft>{backup.file_name}</Soft>}
      </p>
      {backup.problem && <Fault role="alert">{t("house_desk.the_last_try_failed", { problem: backup.problem })}</Fault>}
      {ask.beside() && <Fault role="alert">{ask.beside()}</Fault>}
    </Stack>
  );
}
