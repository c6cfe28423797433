/** The house's own words. */
import type { Schema } from "../../api/client";

export const ROLES: Record<Schema["Role"], string> = {
  counter: "works at the counter and the bench",
  lead: "also changes rules, prices and counter hands, and lifts waits",
  owner: "also says who leads and who owns",
};

export const FIELDS: Record<string, string> = {
  name: "name",
  role: "role",
  works_here: "works here",
  pin: "PIN",
  currency: "money",
  temperature_unit: "temperatures",
  length_unit: "lengths",
  time_zone: "time zone",
  bay_temperature_c: "usual in the bay, °C",
  idle_minutes: "locks after, min",
  tax_name: "tax",
  tax_pct: "tax, %",
  paper_size: "sheets",
  paper_head: "under the name on papers",
  paper_foot: "at the foot of papers",
  logo: "picture",
  free_months: "months free",
  pro_rata_months: "months by use",
  date_code_allowance_months: "months of shelf",
  excluded_uses: "not for",
  reference: "where they stand",
  holds_from: "sold from",
  rules: "house rules",
  people: "people",
  said: "",
};
