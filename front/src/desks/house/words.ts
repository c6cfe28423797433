/** The house's own words. */
import type { Schema } from "../../api/client";
import { t } from "../../language/t";

export const ROLE_NAMES: Record<Schema["Role"], string> = {
  counter: t("screens.counter_2"),
  lead: t("screens.lead"),
  owner: t("screens.owner"),
};

export const ROLES: Record<Schema["Role"], string> = {
  counter: t("words.works_at_the_counter_and_the_bench"),
  lead: t("words.also_changes_rules_prices_and_counter"),
  owner: t("words.also_says_who_leads_and_who_owns"),
};

export const FIELDS: Record<string, string> = {
  name: "name",
  role: t("words.role"),
  works_here: t("words.works_here"),
  pin: t("screens.pin"),
  currency: t("words.money"),
  temperature_unit: t("words.temperatures"),
  length_unit: t("words.lengths"),
  time_zone: t("words.time_zone"),
  bay_temperature_c: t("words.usual_in_the_bay_c"),
  idle_minutes: t("words.locks_after_min"),
  language: t("words.language"),
  tax_name: t("words.tax"),
  tax_pct: t("words.tax_2"),
  paper_size: "sheets",
  paper_head: t("words.under_the_name_on_papers"),
  paper_foot: t("words.at_the_foot_of_papers"),
  logo: t("words.picture"),
  free_months: t("words.months_free"),
  pro_rata_months: t("words.months_by_use"),
  date_code_allowance_months: t("words.months_of_shelf"),
  excluded_uses: t("words.not_for"),
  reference: t("words.where_they_stand"),
  holds_from: t("words.sold_from"),
  rules: t("screens.house_rules"),
  people: t("words.people"),
  shares: t("words.shares"),
  from: t("words.from"),
  store: t("words.store"),
  catalogue: t("words.catalogue"),
  terms: t("words.warranty_terms"),
  said: "",
};
