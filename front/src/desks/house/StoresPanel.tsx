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
  [t("batteries in the house"), (one) => one.in_house],
  [t("due by their time"), (one) => one.due],
  [t("unsafe"), (one) => one.unsafe],
  [t("watched"), (one) => one.watched],
  [t("taken in, seven days"), (one) => one.taken_in],
  [t("claims, seven days"), (one) => one.claims],
  [t("sold, seven days"), (one) => `${one.sales}: ${money(one.sold_cents, one.currency)}`],
  [t("pieces on the shelf"), (one) => one.pieces],
  [t("worth at our prices"), (one) => money(one.pieces_cents, one.currency)],
  [t("coming, going"), (one) => `${one.coming}, ${one.going}`],
  [t("people at work"), (one) => one.people],
];
const SHARES: [keyof Schema["Follows"], string][] = [
  ["rules", t("House rules")],
  ["catalogue", t("Catalogue and prices")],
  ["terms", t("Warranty terms")],
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
        <h2>{t("Stores")}</h2>
        <Openers>
          {!opening && <Button onPress={() => setOpening(true)}>{t("Open another")}</Button>}
          <Button onPress={onLeave}>{t("Leave it")}</Button>
        </Openers>
      </Heads>
      {opening && <OpenForm zones={found.zones} onDone={took} onLeave={() => setOpening(false)} />}
      <Table>
        <table aria-label={t("Stores side by side")}>
          <thead>
            <tr>
              <th scope="col">
                <span className="quiet">{t("what")}</span>
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
                  <td key={one.id}>{one.follows[what] ? t("as {0}", one.follows[what]) : t("its own")}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Table>
      <FollowForm stores={found.stores} onDone={took} />
      <Soft>
        {t(
          "A store signs in at an address of its own: {0}. A device remembers the store somebody signed in at.",
          found.stores.map((one) => `/?door=${one.door} (${one.name})`).join(", "),
        )}
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
    own: t("its own"),
    ...Object.fromEntries(others.map((one) => [String(one.id), t("as {0}", one.name)])),
  };
  return (
    <Stack $gap={8} as="section" aria-label={t("What {0} shares", here.name)}>
      <h2>{t("{0} works by", here.name)}</h2>
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
      <Soft>
        {t(
          "What another store writes is taken over at once and changed there alone; stock and customers are each its own.",
        )}
      </Soft>
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
      label={t("Open another store")}
      write={write}
      ready={name.trim() !== ""}
      onSend={() => write.write({ name, time_zone: zone, shares: chosen })}
      keep={t("Open it")}
      onLeave={onLeave}
    >
      <Figures>
        <Typed path="name" label={t("Its name")} value={name} onChange={setName} numeric={false} autoFocus />
        <Zone value={zone} onChange={setZone} zones={zones} />
      </Figures>
      <Acts role="group" aria-label={t("Shares with this store")}>
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
      <Soft>
        {t(
          "What is marked it shares with this store. Money, units and hours begin as they are here, and you work in it; its people you give it below their names.",
        )}
      </Soft>
    </EntryForm>
  );
}
