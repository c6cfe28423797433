/** The House desk: the shop itself, who works in it, what is still missing for the next piece of work, what was changed. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Form, Link } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { api, asked, type Schema } from "../../api/client";
import { house, queries } from "../../api/queries";
import { Button, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { dayOf } from "../../kit/words";
import { Acts, Column, Columns, Fault, Heads, Line, Small } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { Changes } from "./Changes";
import { Logo, PaperFields } from "./PaperFields";
import { PersonForm } from "./PersonForm";
import { TermsPanel } from "./TermsPanel";
import { shopOf, ShopFields, typedOf } from "./ShopFields";

const Row = styled(Line)`
  grid-template-columns: minmax(0, 1fr) auto;
  b {
    font-size: 18px;
  }
`;
const To = styled(Link)`
  ${touchLink}
`;

export function HouseDesk({ who }: { who: Schema["Me"] }) {
  const { data: found, error } = useQuery(house);
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<number | "new" | null>(null);
  // the terms have an address of their own: what is missing leads there
  const picked = params.has("terms") ? "terms" : chosen;
  function setPicked(next: number | "new" | "terms" | null) {
    setChosen(next === "terms" ? null : next);
    setParams(next === "terms" ? { terms: "" } : {}, { replace: true });
  }
  if (!found)
    return (
      <Page aria-busy={!error}>{error && <Empty><h1>The house</h1><p>{error.message}</p></Empty>}</Page> // prettier-ignore
    );
  const took = (answer: Schema["HouseView"]) => {
    queries.setQueryData(house.queryKey, answer);
    void queries.invalidateQueries({ queryKey: ["house", "changes"] });
    setPicked(null);
  };
  const one = found.people.find(({ id }) => id === picked);
  return (
    <Columns>
      <Column aria-label="The house">
        <Heads>
          <h1>The house</h1>
          <span style={{ display: "inline-flex", gap: 16 }}>
            <To href="/equipment">equipment and hours</To>
            <To href="/rules">house rules</To>
          </span>
        </Heads>
        {found.missing.length > 0 && (
          <section aria-label="Still missing">
            <h2>Still missing</h2>
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
          <h2>People</h2>
          <Button onPress={() => setPicked("new")}>Write somebody in</Button>
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
                {row.role}
                {row.left_at && `, left ${dayOf(row.left_at)}`}
              </Soft>
            </Row>
          ))}
        </div>
        <Heads>
          <h2>Warranty terms</h2>
          <Button onPress={() => setPicked("terms")}>Lines and editions</Button>
        </Heads>
        <ShopForm found={found} onDone={took} />
        <Logo found={found} onDone={took} />
        <BackupLine found={found} onDone={(answer) => queries.setQueryData(house.queryKey, answer)} />
      </Column>
      <Column aria-label={picked === null ? "What was changed" : picked === "terms" ? "Warranty terms" : "One person"}>
        {picked === null ? (
          <Changes />
        ) : picked === "terms" ? (
          <TermsPanel onLeave={() => setPicked(null)} />
        ) : (
          <PersonForm
            key={String(picked)}
            row={one ?? null}
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
  const [typed, setTyped] = useState(() => typedOf(found.shop));
  const [seen, setSeen] = useState(found);
  const isChanged = JSON.stringify(shopOf(typed)) !== JSON.stringify(shopOf(typedOf(seen.shop)));
  if (found.edition !== seen.edition && !isChanged) {
    // somebody else changed it, and nothing is typed here that would be lost
    setSeen(found);
    setTyped(typedOf(found.shop));
  }
  const write = useWrite(
    (shop: Schema["ShopSettings"], named) =>
      asked(api.PUT("/api/house/shop", { params: named, body: { shop, based_on: seen.edition } })),
    (answer) => {
      setSeen(answer);
      setTyped(typedOf(answer.shop));
      onDone(answer);
    },
  );
  const fields = FIELDS.map((field) => `shop.${field}`);
  const beside = write.beside(...fields);
  return (
    <Form
      aria-label="The shop"
      style={{ display: "grid", gap: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (isChanged) write.write(shopOf(typed));
      }}
    >
      <h2>The shop</h2>
      <ShopFields typed={typed} onChange={setTyped} of={write.of} zones={found.zones} />
      <PaperFields typed={typed} onChange={setTyped} of={write.of} />
      {beside && <Fault role="alert">{beside}</Fault>}
      {found.edition !== seen.edition && (
        <Acts role="status">
          <Soft>
            Changed meanwhile to {found.shop.name}, {found.shop.currency}, {found.shop.time_zone}.
          </Soft>
          <Button
            onPress={() => {
              setSeen(found);
              setTyped(typedOf(found.shop));
            }}
          >
            Take what stands now
          </Button>
          <Button onPress={() => setSeen(found)}>Keep on with mine</Button>
        </Acts>
      )}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={!isChanged || write.pending}>
          So from now on
        </Button>
        {found.money_fixed && <Soft>Something was sold in {found.shop.currency}: that stays its money.</Soft>}
      </Acts>
    </Form>
  );
}

const WAIT_MS = 1500;
const WAIT_FOR_MS = 60_000;

/** How old the last good backup is, and one more at a press. It is made beside the server: the desk looks until it is there. */
function BackupLine({ found, onDone }: ShopProps) {
  const { backup } = found;
  const [asking, setAsking] = useState<number | null>(null);
  const ask = useWrite(
    (_: null, named) => asked(api.POST("/api/house/backup", { params: named, body: {} })),
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
      ? "No backup was made yet."
      : `Last good backup ${backup.days_old === 0 ? "today" : backup.days_old === 1 ? "yesterday" : `${String(backup.days_old)} days ago`}: ${String(backup.rows)} rows, ${String(backup.megabytes)} MB.`;
  return (
    <section aria-label="Backup" style={{ display: "grid", gap: 6 }}>
      <Heads>
        <h2>Backup</h2>
        <Button isDisabled={ask.pending || asking !== null} onPress={() => ask.write(null)}>
          {asking === null ? "Make one now" : "It is being made"}
        </Button>
      </Heads>
      <p>
        {age} {backup.made_at && <Soft>{backup.file_name}</Soft>}
      </p>
      {backup.problem && <Fault role="alert">The last try failed: {backup.problem}</Fault>}
      {ask.beside() && <Fault role="alert">{ask.beside()}</Fault>}
    </section>
  );
}
