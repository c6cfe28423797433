/** An owner's stores side by side; another one opened; what this one shares. */
import { useQuery } from "@tanstack/react-query";
import { useState, type ComponentProps } from "react";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { put } from "../../api/live";
import { queries, sideBySide } from "../../api/queries";
import { EntryForm, Typed, useFault } from "../../kit/EntryForm";
import { Button, Choice, Soft } from "../../kit/parts";
import { money } from "../../kit/words";
import { Acts, Fault, Figures, Heads } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { ZoneField } from "./ShopFields";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Stack } from "../../kit/layout";

const Openers = styled.span`
  display: inline-flex;
  gap: 8px;
`;

const Table = styled.div`
  overflow-x: auto;
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 16px;
  }
  th,
  td {
    padding: 5px 8px;
    border-bottom: 1px solid var(--line);
    text-align: right;
    font-variant-numeric: tabular-nums;
    white-space: nowrap;
  }
  th:first-child {
    text-align: left;
    font-weight: 400;
    color: var(--soft);
  }
  thead th {
    font-weight: 700;
    color: var(--ink);
    white-space: normal;
    vertical-align: bottom;
  }
`;

type One = Schema["SideBySide"];
const ROWS: [string, (one: One) => string | number][] = [
  [t("stores_panel.batteries_in_the_house"), (one) => one.in_house],
  [t("stores_panel.due_by_their_time"), (one) => one.due],
  [t("screens.unsafe"), (one) => one.unsafe],
  [t("stores_panel.watched"), (one) => one.watched],
  [t("stores_panel.taken_in_seven_days"), (one) => one.taken_in],
  [t("stores_panel.claims_seven_days"), (one) => one.claims],
  [t("stores_panel.sold_seven_days"), (one) => `${one.sales}: ${money(one.sold_cents, one.currency)}`],
  [t("stores_panel.pieces_on_the_shelf"), (one) => one.pieces],
  [t("stores_panel.worth_at_our_prices"), (one) => money(one.pieces_cents, one.currency)],
  [t("stores_panel.coming_going"), (one) => `${one.coming}, ${one.going}`],
  [t("stores_panel.people_at_work"), (one) => one.people],
];
const SHARES: [keyof Schema["Follows"], string][] = [
  ["rules", t("screens.house_rules_2")],
  ["catalogue", t("stores_panel.catalogue_and_prices")],
  ["terms", t("screens.warranty_terms")],
];

export function StoresPanel({ onLeave }: { onLeave: () => void }) {
  const { data: found, error } = useQuery(sideBySide);
  const [opening, setOpening] = useState(false);
  const took = (answer: Schema["HouseStores"]) => {
    put(sideBySide.queryKey, answer);
    void queries.invalidateQueries({ queryKey: ["stores"] });
    void queries.invalidateQueries({ queryKey: ["house", "changes"] });
    setOpening(false);
  };
  if (!found) return <p>{error?.message}</p>;
  return (
    <>
      <Heads>
        <h2>{t("screens.stores")}</h2>
        <Openers>
          {!opening && <Button onPress={() => setOpening(true)}>{t("stores_panel.open_another")}</Button>}
          <Button onPress={onLeave}>{t("help_page.close")}</Button>
        </Openers>
      </Heads>
      {opening && <OpenForm zones={found.zones} onDone={took} onLeave={() => setOpening(false)} />}
      <Table>
        <table aria-label={t("stores_panel.stores_side_by_side")}>
          <thead>
            <tr>
              <th scope="col">
                <span className="quiet">{t("stores_panel.what")}</span>
              </th>
              {found.stores.map((one) => (
                <th key={one.id} scope="col">
                  {one.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ROWS.map(([words, of]) => (
              <tr key={words}>
                <th scope="row">{words}</th>
                {found.stores.map((one) => (
                  <td key={one.id}>{of(one)}</td>
                ))}
              </tr>
            ))}
            {SHARES.map(([what, words]) => (
              <tr key={what}>
                <th scope="row">{small(words)}</th>
                {found.stores.map((one) => (
                  <td key={one.id}>
                    {one.follows[what] ? t("stores_panel.as", { what: one.follows[what] }) : t("screens.its_own")}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Table>
      <FollowForm stores={found.stores} onDone={took} />
      <Soft>
        {t("stores_panel.a_store_signs_in_at_an_address_of_its_own", {
          stores: found.stores.map((one) => `/?door=${one.door} (${one.name})`).join(", "),
        })}
      </Soft>
    </>
  );
}

interface FormProps {
  onDone: (answer: Schema["HouseStores"]) => void;
}

/** Whose rules, catalogue and terms this store works by. */
function FollowForm({ stores, onDone }: FormProps & { stores: One[] }) {
  const write = useWrite(
    (body: Schema["Follows"], named) => answerOf(api.PUT("/api/house/stores/follows", { params: named, body })),
    onDone,
  );
  const here = stores.find((one) => one.here);
  const others = stores.filter((one) => !one.here);
  if (!here || !others.length) return null;
  const idOf = (name: string | null | undefined) => stores.find((one) => one.name === name)?.id ?? null;
  const now: Schema["Follows"] = {
    rules: idOf(here.follows["rules"]),
    catalogue: idOf(here.follows["catalogue"]),
    terms: idOf(here.follows["terms"]),
  };
  const words = {
    own: t("screens.its_own"),
    ...Object.fromEntries(others.map((one) => [String(one.id), t("screens.as", { name: one.name })])),
  };
  return (
    <Stack $gap={8} as="section" aria-label={t("stores_panel.what_shares", { name: here.name })}>
      <h2>{t("stores_panel.works_by", { name: here.name })}</h2>
      {SHARES.map(([what, label]) => (
        <div key={what}>
          <Choice
            label={label}
            value={now[what] === null || now[what] === undefined ? "own" : String(now[what])}
            words={words as Record<string, string>}
            onChange={(next) => write.write({ ...now, [what]: next === "own" ? null : Number(next) })}
          />
          {write.of(what) && <Fault role="alert">{write.of(what)}</Fault>}
        </div>
      ))}
      {write.beside("rules", "catalogue", "terms") && (
        <Fault role="alert">{write.beside("rules", "catalogue", "terms")}</Fault>
      )}
      <Soft>{t("stores_panel.what_another_store_writes_is_taken_over_at")}</Soft>
    </Stack>
  );
}

function Zone(props: Omit<ComponentProps<typeof ZoneField>, "problem">) {
  const fault = useFault("time_zone");
  return <ZoneField {...props} problem={fault} />;
}

function OpenForm({ zones, onDone, onLeave }: FormProps & { zones: string[]; onLeave: () => void }) {
  const [name, setName] = useState("");
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [shares, setShares] = useState<Schema["OpenStore"]["shares"]>(["rules", "catalogue", "terms"]);
  const write = useWrite(
    (body: Schema["OpenStore"], named) => answerOf(api.POST("/api/house/stores", { params: named, body })),
    onDone,
  );
  const chosen = shares ?? [];
  return (
    <EntryForm
      label={t("stores_panel.open_another_store")}
      write={write}
      ready={name.trim() !== ""}
      onSend={() => write.write({ name, time_zone: zone, shares: chosen })}
      keep={t("stores_panel.open_it")}
      onLeave={onLeave}
    >
      <Figures>
        <Typed
          path="name"
          label={t("stores_panel.its_name")}
          value={name}
          onChange={setName}
          numeric={false}
          autoFocus
        />
        <Zone value={zone} onChange={setZone} zones={zones} />
      </Figures>
      <Acts role="group" aria-label={t("stores_panel.shares_with_this_store")}>
        {SHARES.map(([what, words]) => (
          <Button
            key={what}
            aria-pressed={chosen.includes(what)}
            $tone={chosen.includes(what) ? "strong" : undefined}
            onPress={() => setShares(chosen.includes(what) ? chosen.filter((one) => one !== what) : [...chosen, what])}
          >
            {words}
          </Button>
        ))}
      </Acts>
      <Soft>{t("stores_panel.what_is_marked_it_shares_with_this_store")}</Soft>
    </EntryForm>
  );
}
