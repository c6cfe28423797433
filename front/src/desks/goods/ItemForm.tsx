/** An item of the catalogue written in, or anew; what is not said of its outside is that of its size. */
import { useQuery } from "@tanstack/react-query";
import { useState, type ComponentProps } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { reference, suppliers } from "../../api/queries";
import { EntryForm, FaultOf, Typed, useFault } from "../../kit/EntryForm";
import { Choice, Soft } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { numberOf } from "../../kit/units";
import { CHEMISTRIES } from "../../kit/words";
import { amountOf, centsOf } from "../../kit/money";
import { useWho } from "../../kit/who";
import { Figures } from "./parts";
import { useWrite } from "./useWrite";
import { t } from "../../language/t";
import { wordOf } from "../../language/speak";

const SCALES = { CCA: "CCA", EN: "EN", DIN: "DIN", IEC: "IEC", CA: "CA" } as const;
const YES_NO = { no: t("screens.no"), yes: t("screens.yes") } as const;

interface TypedItem {
  line: string;
  name: string;
  size: string | null;
  /** What stands in the field of the size: it is written as it is where the list of sizes is not here yet. */
  sizeText: string;
  chemistry: Schema["Chemistry"];
  amps: string;
  scale: keyof typeof SCALES;
  ah: string;
  reserve: string;
  vent: boolean;
  price: string;
  deposit: string;
  /** One of the shop's further taxes; empty is its first. */
  tax: string;
  supplier: number | null;
  code: string;
}

/** What was written of its outside stays while its size does; everything else of it stays whatever is written here. */
const OF_ITS_SIZE = { length_mm: null, width_mm: null, height_mm: null, positive_side: null, post: null, ledge: null };

const asText = (value: number | null | undefined) => (value == null ? "" : String(value));

function typedOf(item: Schema["GoodsItem"] | null, currency: string): TypedItem {
  return {
    line: item?.line ?? "",
    name: item?.name ?? "",
    size: item?.group_code ?? null,
    sizeText: item?.group_code ?? "",
    chemistry: item?.chemistry ?? "flooded",
    amps: asText(item?.rating.amps),
    scale: (item?.rating.scale ?? "CCA") as keyof typeof SCALES,
    ah: asText(item?.capacity_ah_20h),
    reserve: asText(item?.reserve_minutes),
    vent: item?.vent_tube ?? false,
    price: item ? amountOf(item.price_cents, currency) : "",
    deposit: amountOf(item?.core_deposit_cents ?? 0, currency),
    tax: item?.tax_name ?? "",
    supplier: item?.supplier_id ?? null,
    code: item?.supplier_code ?? "",
  };
}

/** What is written, column by column: one that an item has and that stands neither here nor in its outside does not compile. */
const itemOf = (
  typed: TypedItem,
  amps: number,
  before: Schema["GoodsItem"] | undefined,
  currency: string,
): Required<Omit<Schema["GoodsItem"], keyof typeof OF_ITS_SIZE>> => ({
  line: typed.line,
  name: typed.name,
  group_code: typed.size ?? typed.sizeText.trim(),
  nominal_volts: before?.nominal_volts ?? 12,
  chemistry: typed.chemistry,
  rating: { amps, scale: typed.scale },
  capacity_ah_20h: numberOf(typed.ah),
  reserve_minutes: numberOf(typed.reserve),
  vent_tube: typed.vent,
  vent_side: typed.vent ? (before?.vent_side ?? null) : null,
  price_cents: centsOf(typed.price, currency) ?? 0,
  core_deposit_cents: centsOf(typed.deposit, currency) ?? 0,
  tax_name: typed.tax,
  supplier_id: typed.supplier,
  supplier_code: typed.code,
});

function SizePick(props: ComponentProps<typeof Pick>) {
  const fault = useFault("group_code");
  return <Pick {...props} problem={fault} />;
}

export function ItemForm({ row, onDone }: { row: Schema["ItemDetail"] | null; onDone: () => void }) {
  const { store } = useWho();
  const { data: known } = useQuery(reference);
  const { data: bringers } = useQuery(suppliers);
  const [typed, setTyped] = useState(() => typedOf(row?.item ?? null, store.currency));
  const set = (more: Partial<TypedItem>) => setTyped((before) => ({ ...before, ...more }));
  const write = useWrite(
    (item: Schema["GoodsItem"], name): Promise<unknown> =>
      row
        ? answerOf(
            api.PUT("/api/goods/{item_id}", {
              params: { ...name, path: { item_id: row.id } },
              body: { item, based_on: row.edition },
            }),
          )
        : answerOf(api.POST("/api/goods", { params: name, body: { item, based_on: 0 } })),
    onDone,
  );
  const amps = numberOf(typed.amps);
  const ready =
    typed.name.trim() !== "" &&
    typed.line.trim() !== "" &&
    amps !== null &&
    centsOf(typed.price, store.currency) !== null;
  const sameSize = row !== null && typed.size === row.item.group_code;
  return (
    <EntryForm
      label={row ? t("screens.write_anew", { name: row.item.name }) : t("item_form.write_an_item_in")}
      write={write}
      within="item."
      ready={ready}
      onSend={() =>
        amps !== null &&
        write.write({
          ...row?.item,
          ...(sameSize ? {} : OF_ITS_SIZE),
          ...itemOf(typed, amps, row?.item, store.currency),
        })
      }
      keep={row ? t("screens.write_it_anew") : t("screens.write_it_in")}
      onLeave={onDone}
      acts={row && <Soft>{t("item_form.edition", { edition: row.edition })}</Soft>}
    >
      <h2>{row ? row.item.name : t("item_form.a_new_item")}</h2>
      <Figures>
        <Typed
          path="price_cents"
          label={t("screens.price")}
          value={typed.price}
          onChange={(price) => set({ price })}
          name="price"
        />
        <Typed
          path="core_deposit_cents"
          label={t("item_form.deposit_on_the_old_one")}
          value={typed.deposit}
          onChange={(deposit) => set({ deposit })}
          name="deposit"
        />
        {store.taxes.length > 1 && (
          <Choice
            label={t("item_form.tax")}
            value={typed.tax || (store.taxes[0] ?? "")}
            words={Object.fromEntries(store.taxes.map((name) => [name, name]))}
            onChange={(tax) => set({ tax: tax === store.taxes[0] ? "" : tax })}
          />
        )}
      </Figures>
      <Figures>
        <Typed
          path="name"
          label={t("screens.name")}
          value={typed.name}
          onChange={(name) => set({ name })}
          numeric={false}
        />
        <Typed
          path="line"
          label={t("screens.line")}
          value={typed.line}
          onChange={(line) => set({ line })}
          numeric={false}
        />
      </Figures>
      <SizePick
        label={t("item_form.size")}
        idIsName
        value={typed.size}
        onChange={(size) => set({ size })}
        onType={(sizeText) => set({ sizeText })}
        options={(known?.sizes ?? []).map((one) => ({
          id: one.code,
          name: one.code,
          note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${wordOf(one.positive_side)}`,
        }))}
        placeholder={t("screens.48_24f_ln3")}
      />
      <FaultOf path="length_mm" />
      <Choice
        label={t("item_form.type")}
        value={typed.chemistry}
        words={CHEMISTRIES}
        onChange={(chemistry) => set({ chemistry })}
      />
      <Figures>
        <Typed
          path="rating.amps"
          label={t("item_form.rating")}
          value={typed.amps}
          onChange={(text) => set({ amps: text })}
          unit={typed.scale}
          name="amps"
        />
        <Typed
          path="capacity_ah_20h"
          label={t("screens.capacity")}
          value={typed.ah}
          onChange={(ah) => set({ ah })}
          unit="Ah"
          name="ah"
        />
        <Typed
          path="reserve_minutes"
          label={t("screens.reserve")}
          value={typed.reserve}
          onChange={(reserve) => set({ reserve })}
          unit={t("screens.min_2")}
          name="reserve"
        />
      </Figures>
      <Choice
        label={t("item_form.scale_of_the_rating")}
        value={typed.scale}
        words={SCALES}
        onChange={(scale) => set({ scale })}
      />
      <Choice
        label={t("screens.vent_tube")}
        value={typed.vent ? "yes" : "no"}
        words={YES_NO}
        onChange={(next) => set({ vent: next === "yes" })}
      />
      <Choice
        label={t("item_form.brought_by")}
        value={String(typed.supplier ?? "none")}
        words={{
          none: t("item_form.nobody"),
          ...Object.fromEntries((bringers ?? []).map((one) => [String(one.id), one.supplier.name])),
        }}
        onChange={(next) => set({ supplier: next === "none" ? null : Number(next) })}
      />
      <Typed
        path="supplier_code"
        label={t("item_form.suppliers_number")}
        value={typed.code}
        onChange={(code) => set({ code })}
        numeric={false}
      />
    </EntryForm>
  );
}
