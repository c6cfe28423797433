/** The house's own words. */
import type { Schema } from "../../api/client";
import { t } from "../../language/t";

export const ROLE_NAMES: Record<Schema["Role"], string> = {
  counter: t("counter"),
  lead: t("lead"),
  owner: t("owner"),
};

export const ROLES: Record<Schema["Role"], string> = {
  counter: t("works at the counter and the bench"),
  lead: t("also changes rules, prices and counter hands, and lifts waits"),
  owner: t("also says who leads and who owns"),
};

export const FIELDS: Record<string, string> = {
  name: "name",
  role: t("role"),
  works_here: t("works here"),
  pin: t("PIN"),
  currency: t("money"),
  temperature_unit: t("temperatures"),
  length_unit: t("lengths"),
  time_zone: t("time zone"),
  bay_temperature_c: t("usual in the bay, °C"),
  idle_minutes: t("locks after, min"),
  language: t("language"),
  tax_name: t("tax"),
  tax_pct: t("tax, %"),
  paper_size: "sheets",
  paper_head: t("under the name on papers"),
  paper_foot: t("at the foot of papers"),
  logo: t("picture"),
  free_months: t("months free"),
  pro_rata_months: t("months by use"),
  date_code_allowance_months: t("months of shelf"),
  excluded_uses: t("not for"),
  reference: t("where they stand"),
  holds_from: t("sold from"),
  rules: t("house rules"),
  people: t("people"),
  shares: t("shares"),
  from: t("from"),
  store: t("store"),
  catalogue: t("catalogue"),
  terms: t("warranty terms"),
  said: "",
};
