/** The shop's settings as fields: the same on the first page and on the House desk. */
import { memo } from "react";
import type { Schema } from "../../api/client";
import { CURRENCIES } from "../../api/currencies";
import { Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Pick } from "../../kit/Pick";
import { numberOf } from "../../kit/units";
import { Figures } from "../goods/parts";
import { t } from "../../language/t";
import { Fault as Wrong } from "../../kit/formParts";

const OFTEN = ["EUR", "GBP", "USD", "CAD", "AUD", "NZD", "CHF", "SEK", "NOK", "DKK", "PLN", "CZK", "ZAR", "JPY", "INR"];
/** Every money there is, those that are asked for most first. */
const MONEY = [...OFTEN, ...CURRENCIES.filter((code) => !OFTEN.includes(code))];

/** The settings while they are typed. */
export interface ShopTyped {
  name: string;
  currency: string;
  temperature_unit: "C" | "F";
  length_unit: "mm" | "in";
  time_zone: string;
  bay: string;
  idle: string;
  taxName: string;
  tax: string;
  onTop: boolean;
  more: { name: string; pct: string }[];
  language: string;
  paper: "A4" | "Letter";
  head: string;
  foot: string;
}

export const fieldsOf = (shop: Schema["ShopSettings"]): ShopTyped => ({
  name: shop.name,
  currency: shop.currency ?? "EUR",
  temperature_unit: shop.temperature_unit ?? "C",
  length_unit: shop.length_unit ?? "mm",
  time_zone: shop.time_zone ?? "UTC",
  bay: shop.bay_temperature_c === null || shop.bay_temperature_c === undefined ? "" : bayShown(shop),
  idle: String(shop.idle_minutes ?? 10),
  taxName: shop.tax_name ?? "",
  tax: shop.tax_pct ? String(shop.tax_pct) : "",
  onTop: shop.tax_on_top ?? false,
  more: (shop.more_taxes ?? []).map((one) => ({ name: one.name, pct: String(one.pct) })),
  language: shop.language ?? "en",
  paper: shop.paper_size ?? "A4",
  head: shop.paper_head ?? "",
  foot: shop.paper_foot ?? "",
});

const bayShown = ({ bay_temperature_c: bay, temperature_unit: unit }: Schema["ShopSettings"]) =>
  String(Math.round((unit === "F" ? ((bay ?? 0) * 9) / 5 + 32 : (bay ?? 0)) * 10) / 10);

/** What is sent; the bay's temperature is typed in the shop's own unit. */
export function shopOf(typed: ShopTyped): Schema["ShopSettings"] {
  const bay = Number(typed.bay.trim().replace(",", "."));
  const celsius = typed.temperature_unit === "F" ? ((bay - 32) * 5) / 9 : bay;
  const idle = Number(typed.idle.trim());
  return {
    name: typed.name,
    currency: typed.currency.trim().toUpperCase(),
    temperature_unit: typed.temperature_unit,
    length_unit: typed.length_unit,
    time_zone: typed.time_zone,
    bay_temperature_c: typed.bay.trim() === "" || !Number.isFinite(celsius) ? null : Math.round(celsius * 10) / 10,
    idle_minutes: Number.isInteger(idle) ? idle : 0,
    tax_name: typed.taxName.trim(),
    tax_pct: typed.tax.trim() === "" ? 0 : (numberOf(typed.tax) ?? -1),
    tax_on_top: typed.onTop,
    more_taxes: typed.more
      .filter((one) => one.name.trim() || one.pct.trim())
      .map((one) => ({ name: one.name.trim(), pct: numberOf(one.pct) ?? -1 })),
    language: typed.language,
    paper_size: typed.paper,
    paper_head: typed.head.trim(),
    paper_foot: typed.foot.trim(),
  };
}

interface Props {
  typed: ShopTyped;
  onChange: (typed: ShopTyped) => void;
  of: (path: string) => string | undefined;
  zones: string[];
  /** By their code, as they call themselves. */
  languages: Record<string, string>;
  isNew?: boolean;
}

interface ZoneProps {
  value: string;
  onChange: (zone: string) => void;
  zones: string[];
  problem: string | undefined;
}

export function ZoneField({ value, onChange, zones, problem }: ZoneProps) {
  return (
    <div>
      <Pick
        label={t("shop_fields.time_zone")}
        options={zones.map((id) => ({ id, name: id }))}
        value={value || null}
        onChange={(zone) => onChange(zone ?? "")}
      />
      <Fault>{problem}</Fault>
    </div>
  );
}

export const ShopFields = memo(function ShopFields({ typed, onChange, of, zones, languages, isNew = false }: Props) {
  const set = (more: Partial<ShopTyped>) => onChange({ ...typed, ...more });
  return (
    <>
      <Figures>
        <Entry
          label={t("shop_fields.the_shops_name")}
          value={typed.name}
          onChange={(name) => set({ name })}
          numeric={false}
          name="shop"
          autoFocus={isNew}
          problem={of("shop.name")}
        />
        <div>
          <Pick
            label={t("shop_fields.money")}
            options={MONEY.map((id) => ({ id, name: id }))}
            value={MONEY.includes(typed.currency) ? typed.currency : null}
            text={typed.currency}
            onChange={(currency) => currency && set({ currency })}
            allowsOther={(currency) => set({ currency })}
          />
          <Fault>{of("shop.currency")}</Fault>
        </div>
        <ZoneField
          value={typed.time_zone}
          onChange={(time_zone) => set({ time_zone })}
          zones={zones}
          problem={of("shop.time_zone")}
        />
      </Figures>
      <Figures>
        <Choice
          label={t("shop_fields.temperatures")}
          value={typed.temperature_unit}
          words={{ C: "°C", F: "°F" }}
          onChange={(temperature_unit) => set({ temperature_unit })}
        />
        <Choice
          label={t("shop_fields.lengths")}
          value={typed.length_unit}
          words={{ mm: "mm", in: t("shop_fields.inches") }}
          onChange={(length_unit) => set({ length_unit })}
        />
        {Object.keys(languages).length > 1 && (
          <Choice
            label={t("shop_fields.language")}
            value={typed.language}
            words={languages}
            onChange={(language) => set({ language })}
          />
        )}
        {!isNew && (
          <>
            <Entry
              label={t("shop_fields.usual_in_the_bay")}
              value={typed.bay}
              onChange={(bay) => set({ bay })}
              unit={typed.temperature_unit === "F" ? "°F" : "°C"}
              name="bay"
              problem={of("shop.bay_temperature_c")}
            />
            <Entry
              label={t("shop_fields.locks_after")}
              value={typed.idle}
              onChange={(idle) => set({ idle })}
              unit={t("screens.min_2")}
              name="idle"
              problem={of("shop.idle_minutes")}
            />
          </>
        )}
      </Figures>
    </>
  );
});

function Fault({ children }: { children: string | undefined }) {
  return children ? <Wrong>{children}</Wrong> : null;
}
