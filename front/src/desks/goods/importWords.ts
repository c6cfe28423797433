/** What lists that are brought in are called, and how they stand. */
import type { Schema } from "../../api/client";
import { t } from "../../language/t";

export const KINDS: Record<Schema["ImportView"]["kind"], string> = {
  items: t("screens.catalogue"),
  pieces: t("import_words.stock"),
  vehicles: t("import_words.vehicle_list"),
  aliases: t("import_words.codes_of_another_trade"),
  terms: t("screens.warranty_terms"),
};
export const STATES: Record<string, string> = {
  reading: t("import_words.being_read"),
  sent: t("import_words.columns_to_be_confirmed"),
  checking: t("import_words.being_looked_at"),
  checked: t("import_words.looked_at_not_kept_yet"),
  keeping: t("import_words.being_kept"),
  kept: t("import_words.kept"),
  stopped: t("import_words.stopped_nothing_kept"),
  failed: t("import_words.not_kept"),
};
