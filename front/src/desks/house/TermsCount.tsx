/** How a pro rata is counted, of which price, and shorter terms by use: folded, for most terms are plain. */
import type { Schema } from "../../api/client";
import { FaultOf, Typed } from "../../kit/EntryForm";
import { Choice } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { USES } from "../../kit/words";
import { Fold } from "../../kit/Fold";
import { t } from "../../language/t";
import { Figures } from "../goods/parts";

type Terms = Schema["Terms"];
export const PRO_RATA: Record<NonNullable<Terms["pro_rata"]>, string> = {
  whole_term: t("terms_count.over_the_whole_term"),
  pro_rata_part: t("terms_count.over_its_own_part"),
  by_days: t("terms_count.by_days"),
  steps: t("terms_count.by_steps"),
};
export const COUNTED: Record<NonNullable<Terms["months_count"]>, string> = {
  completed: t("terms_count.months_completed"),
  begun: t("terms_count.months_begun"),
};
export const OF_PRICE: Record<NonNullable<Terms["price_taken"]>, string> = {
  today: t("terms_count.of_todays_price"),
  list: t("terms_count.of_the_list_price_then"),
  paid: t("terms_count.of_what_was_paid"),
};
/** The counting while it is typed; steps are `month percent` and uses `use free pro-rata`, each on its place. */
export interface Counted {
  pro_rata: keyof typeof PRO_RATA;
  months_count: keyof typeof COUNTED;
  price_taken: keyof typeof OF_PRICE;
  steps: string;
  uses: Partial<Record<Schema["Use"], string>>;
  returnDays: string;
  item: string;
}

export const countedOf = (now: Terms | undefined): Counted => ({
  pro_rata: now?.pro_rata ?? "whole_term",
  months_count: now?.months_count ?? "completed",
  price_taken: now?.price_taken ?? "today",
  steps: (now?.steps ?? []).map((step) => `${step.until_month}: ${step.credit_pct}`).join("; "),
  uses: Object.fromEntries(
    (now?.use_terms ?? []).map((own) => [own.use, `${own.free_months} + ${own.pro_rata_months ?? 0}`]),
  ),
  returnDays: now?.return_days == null ? "" : String(now.return_days),
  item: now?.item ?? "",
});

/** `12: 100; 24: 50` as steps; null where it is none. */
export function stepsOf(text: string): Schema["Step"][] | null {
  const parts = text.split(";").filter((part) => part.trim() !== "");
  const steps = parts.map((part) => {
    const [month = "", pct = ""] = part.split(":");
    return { until_month: numberOf(month) ?? NaN, credit_pct: numberOf(pct) ?? NaN };
  });
  return steps.some((step) => !Number.isInteger(step.until_month) || Number.isNaN(step.credit_pct)) ? null : steps;
}

/** `6 + 12` as free and pro-rata months; null where it is none. */
function monthsOf(text: string): [number, number] | null {
  const [free = "", proRata = "0"] = text.split("+");
  const months = [numberOf(free), numberOf(proRata)];
  return months.every((one) => one !== null && Number.isInteger(one)) ? (months as [number, number]) : null;
}

/** What of it cannot be read is null: then nothing is sent. */
export function countedBody(counted: Counted) {
  const steps = stepsOf(counted.steps);
  const uses = Object.entries(counted.uses).filter(([, text]) => text.trim() !== "");
  const use_terms = uses.map(([use, text]) => ({ use: use as Schema["Use"], months: monthsOf(text) }));
  if (steps === null || use_terms.some((own) => own.months === null)) return null;
  return {
    pro_rata: counted.pro_rata,
    months_count: counted.months_count,
    price_taken: counted.price_taken,
    steps,
    use_terms: use_terms.map(({ use, months }) => ({
      use,
      free_months: months?.[0] ?? 0,
      pro_rata_months: months?.[1] ?? 0,
    })),
    return_days: numberOf(counted.returnDays),
    item: counted.item.trim(),
  };
}

interface Props {
  counted: Counted;
  onChange: (counted: Counted) => void;
  isOpen: boolean;
}

export function TermsCount({ counted, onChange, isOpen }: Props) {
  const set = (more: Partial<Counted>) => onChange({ ...counted, ...more });
  return (
    <Fold open={isOpen}>
      <summary>{t("terms_count.how_it_is_counted")}</summary>
      <Choice
        label={t("terms_count.pro_rata")}
        value={counted.pro_rata}
        words={PRO_RATA}
        onChange={(pro_rata) => set({ pro_rata })}
      />
      {counted.pro_rata === "steps" && (
        <Typed
          path="steps"
          label={t("terms_count.until_month_percent")}
          value={counted.steps}
          onChange={(steps) => set({ steps })}
          numeric={false}
          placeholder="12: 100; 24: 50; 36: 25"
          problem={stepsOf(counted.steps) === null ? t("terms_count.such_as_12_100_24_50") : undefined}
        />
      )}
      <Choice
        label={t("terms_count.months")}
        value={counted.months_count}
        words={COUNTED}
        onChange={(months_count) => set({ months_count })}
      />
      <Choice
        label={t("terms_count.a_share")}
        value={counted.price_taken}
        words={OF_PRICE}
        onChange={(price_taken) => set({ price_taken })}
      />
      <Figures>
        {(Object.keys(USES) as Schema["Use"][])
          .filter((use) => use !== "private")
          .map((use) => (
            <Typed
              key={use}
              path={`use_terms.${use}`}
              label={USES[use]}
              value={counted.uses[use] ?? ""}
              onChange={(text) => set({ uses: { ...counted.uses, [use]: text } })}
              placeholder={t("terms_count.as_above")}
              numeric={false}
              problem={counted.uses[use]?.trim() && !monthsOf(counted.uses[use]) ? "6 + 12" : undefined}
            />
          ))}
      </Figures>
      <Figures>
        <Typed
          path="return_days"
          label={t("terms_count.days_of_return")}
          value={counted.returnDays}
          onChange={(returnDays) => set({ returnDays })}
          placeholder={t("terms_count.the_shops")}
        />
        <Typed
          path="item"
          label={t("terms_count.only_for_the_item")}
          value={counted.item}
          onChange={(item) => set({ item })}
          numeric={false}
          placeholder={t("terms_count.the_whole_line")}
        />
      </Figures>
      <FaultOf path="use_terms" />
    </Fold>
  );
}
