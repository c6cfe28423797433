/** What lists that are brought in are called, and how they stand. */
import type { Schema } from "../../api/client";
import { t } from "../../language/t";

export const KINDS: Record<Schema["ImportView"]["kind"], string> = {
  items: t("Catalogue"),
  pieces: t("Stock"),
  vehicles: t("Vehicle list"),
  aliases: t("Codes of another trade"),
  terms: t("Warranty terms"),
};
export const STATES: Record<string, string> = {
  reading: t("being read"),
  sent: t("columns to be confirmed"),
  checking: t("being looked at"),
  checked: t("looked at, not kept yet"),
  keeping: t("being kept"),
  kept: t("kept"),
  stopped: t("stopped, nothing kept"),
  failed: t("not kept"),
};
