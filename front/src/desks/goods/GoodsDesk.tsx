/** Goods: the catalogue and what stands of it, what wants a hand today, what comes, and who brings it. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { catalogue, orders, sales } from "../../api/queries";
import { Button, Choice, Soft, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { useSettled } from "../../kit/useSettled";
import { dayOf, mayLead, money } from "../../kit/words";
import { DueList } from "./DueList";
import { ItemPanel } from "./ItemPanel";
import { Column, Columns, Heads, Line } from "./parts";
import { Suppliers } from "./Suppliers";
import { t } from "../../language/t";
import { Beside } from "../../kit/layout";

const FindLine = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: end;
`;

const Go = styled(Link)`
  ${touchLink}
`;
const VIEWS = {
  due: t("goods_desk.wants_a_hand"),
  catalogue: t("screens.catalogue"),
  coming: t("goods_desk.coming"),
  sold: t("goods_desk.sold"),
  suppliers: t("goods_desk.suppliers"),
} as const;
type View = keyof typeof VIEWS;
const PAUSE_MS = 150;
const PAGE = 40;

export function GoodsDesk({ who }: { who: Schema["Me"] }) {
  const [address, setAddress] = useSearchParams();
  const [picked, setPicked] = useState<number | "new" | null>(null);
  const inAddress = address.get("view") as View | null;
  const view: View = inAddress && inAddress in VIEWS ? inAddress : "due";
  const isLead = mayLead(who);
  return (
    <Columns>
      <Column aria-label={t("screens.goods")}>
        <Heads>
          <h1>{t("screens.goods")}</h1>
          {isLead && <Go href="/goods/lists">{t("goods_desk.lists_in_and_out")}</Go>}
        </Heads>
        <Choice
          label={t("goods_desk.what_of_the_goods")}
          hideLabel
          value={view}
          words={VIEWS}
          onChange={(next) => {
            setAddress({ view: next }, { replace: true });
            setPicked(null);
          }}
        />
        {view === "due" && <DueList isLead={isLead} onItem={setPicked} />}
        {view === "catalogue" && <Catalogue picked={picked} onPick={setPicked} isLead={isLead} />}
        {view === "coming" && <Coming onPick={setPicked} />}
        {view === "sold" && <Sold />}
        {view === "suppliers" && <Suppliers isLead={isLead} />}
      </Column>
      <Column aria-label={t("goods_desk.one_item")}>
        {picked === null ? (
          <Soft>{t("goods_desk.pick_an_item_on_the_left_its_pieces_its")}</Soft>
        ) : (
          <ItemPanel key={picked} id={picked} isLead={isLead} onDone={() => setPicked(null)} />
        )}
      </Column>
    </Columns>
  );
}

function Catalogue({
  picked,
  onPick,
  isLead,
}: {
  picked: number | "new" | null;
  onPick: (id: number | "new") => void;
  isLead: boolean;
}) {
  const [text, setText] = useState("");
  const [inStock, setInStock] = useState(false);
  const [page, setPage] = useState(0);
  const settled = useSettled(text, PAUSE_MS);
  const { data: found, error } = useQuery(catalogue(settled, inStock, page));
  return (
    <>
      <FindLine>
        <Entry
          label={t("goods_desk.name_size_or_the_suppliers_number")}
          value={text}
          onChange={(next) => {
            setText(next);
            setPage(0);
          }}
          numeric={false}
          placeholder={t("goods_desk.mat_94r")}
          name="text"
        />
        <Choice
          label={t("goods_desk.only_in_stock")}
          hideLabel
          value={inStock ? "in" : "all"}
          words={{ all: t("goods_desk.all"), in: t("goods_desk.in_stock") }}
          onChange={(next) => {
            setInStock(next === "in");
            setPage(0);
          }}
        />
      </FindLine>
      {error && <p role="alert">{error.message}</p>}
      <Heads>
        <Soft role="status">
          {found &&
            (found.found_more
              ? t("goods_desk.more_than_1000_items")
              : `${found.found} ${found.found === 1 ? t("goods_desk.item") : t("goods_desk.items")}`)}
          {found && found.found > PAGE && t("goods_desk.page", { page: page + 1 })}
        </Soft>
        {isLead && <Button onPress={() => onPick("new")}>{t("screens.write_one_in")}</Button>}
      </Heads>
      <div>
        {found?.items.map((one) => (
          <Line key={one.id} aria-pressed={one.id === picked} onPress={() => onPick(one.id)}>
            <b>{one.name}</b>
            <span>{money(one.price_cents, found.currency)}</span>
            <span>
              {one.in_stock ? (
                <b>{t("goods_desk.here", { in_stock: one.in_stock })}</b>
              ) : (
                <small>{t("screens.none")}</small>
              )}
            </span>
          </Line>
        ))}
      </div>
      {found && (found.found > (page + 1) * PAGE || page > 0) && (
        <Beside $gap={8}>
          {page > 0 && <Button onPress={() => setPage(page - 1)}>{t("screens.before")}</Button>}
          {found.found > (page + 1) * PAGE && <Button onPress={() => setPage(page + 1)}>{t("screens.further")}</Button>}
        </Beside>
      )}
    </>
  );
}

function Coming({ onPick }: { onPick: (id: number) => void }) {
  const { data: found } = useQuery(orders);
  if (found?.length === 0) return <Soft>{t("goods_desk.nothing_is_on_order")}</Soft>;
  return (
    <div>
      {found?.map((one) => (
        <Line key={one.id} onPress={() => onPick(one.item_id)}>
          <b>{one.name}</b>
          <span>{t("goods_desk.pieces", { count: one.pieces })}</span>
          <span>{one.expected_on ? dayOf(one.expected_on) : <small>{t("screens.no_day")}</small>}</span>
          <small>
            {one.note}
            {one.for_tag !== null && t("goods_desk.for", { for_tag: one.for_tag })}
          </small>
        </Line>
      ))}
    </div>
  );
}

const Sale = styled(Link)`
  display: grid;
  grid-template-columns: 60px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
  font-size: 16px;
  cursor: pointer;
  b {
    font-size: 19px;
  }
`;

const WENT_BACK: Record<string, string> = {
  void: t("take_back.void"),
  return: t("take_back.returned"),
  exchange: t("take_back.exchanged"),
};

function Sold() {
  const { data: found } = useQuery(sales);
  if (found?.length === 0) return <Soft>{t("goods_desk.nothing_was_sold_from_this_stock_yet")}</Soft>;
  return (
    <div>
      {found?.map((one) => (
        <Sale key={one.tag} href={`/fitting/${one.tag}`}>
          <b>{one.tag}</b>
          <span>
            {one.name}, {one.serial}
            {one.way_back && <em> {WENT_BACK[one.way_back]}</em>}
          </span>
          <Soft>{dayOf(one.sold_at)}</Soft>
        </Sale>
      ))}
    </div>
  );
}
