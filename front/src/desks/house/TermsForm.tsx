/** A new edition of a line's warranty terms. */
import { useState } from "react";
import { api, answerOf, type Schema } from "../../api/client";
import { DayField } from "../../kit/DayField";
import { EntryForm, FaultOf, Typed } from "../../kit/EntryForm";
import { Soft } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { USES } from "../../kit/words";
import { Some } from "../equipment/Some";
import { Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { t } from "../../language/t";
import { countedBody, countedOf, TermsCount } from "./TermsCount";

interface Props {
  line: Schema["LineTerms"];
  onDone: (lines: Schema["LineTerms"][]) => void;
}

export function TermsForm({ line, onDone }: Props) {
  const newest = line.editions[0];
  const now = newest?.terms;
  const [free, setFree] = useState(now ? String(now.free_months) : "");
  const [proRata, setProRata] = useState(now?.pro_rata_months ? String(now.pro_rata_months) : "");
  const [shelf, setShelf] = useState(now?.date_code_allowance_months ? String(now.date_code_allowance_months) : "");
  const [uses, setUses] = useState<Schema["Use"][]>([...(now?.excluded_uses ?? [])]);
  const [reference, setReference] = useState(now?.reference ?? "");
  const [from, setFrom] = useState<string | null>(null);
  const [counted, setCounted] = useState(() => countedOf(now));
  const [isPlain] = useState(JSON.stringify(countedOf(now)) === JSON.stringify(countedOf(undefined)));
  const write = useWrite(
    (body: NonNullable<ReturnType<typeof countedBody>>, named) =>
      answerOf(
        api.POST("/api/house/terms", {
          params: named,
          body: {
            line: line.line,
            ...body,
            free_months: numberOf(free) ?? -1,
            pro_rata_months: numberOf(proRata) ?? 0,
            date_code_allowance_months: numberOf(shelf) ?? 0,
            excluded_uses: uses,
            reference,
            holds_from: from,
            based_on: newest?.id ?? 0,
          },
        }),
      ),
    onDone,
  );
  return (
    <EntryForm
      label={t("terms_form.new_terms_of", { line: line.line })}
      write={write}
      ready={countedBody(counted) !== null}
      onSend={() => {
        const body = countedBody(counted);
        if (body) write.write(body);
      }}
      keep={t("terms_form.keep_as_a_new_edition")}
      acts={<Soft>{t("terms_form.what_was_sold_before_that_day_keeps_its")}</Soft>}
    >
      <Figures>
        <Typed
          path="free_months"
          label={t("terms_form.free")}
          value={free}
          onChange={setFree}
          unit={t("screens.months")}
          name="free"
        />
        <Typed
          path="pro_rata_months"
          label={t("terms_form.by_months_used")}
          value={proRata}
          onChange={setProRata}
          unit={t("screens.months")}
          name="pro-rata"
        />
        <Typed
          path="date_code_allowance_months"
          label={t("terms_form.of_shelf")}
          value={shelf}
          onChange={setShelf}
          unit={t("screens.months")}
          name="shelf"
        />
      </Figures>
      <Some
        label={t("terms_form.not_for")}
        words={USES}
        value={uses}
        onChange={(picked) => setUses(picked as Schema["Use"][])}
      />
      <Figures>
        <Typed
          path="reference"
          label={t("terms_form.where_they_stand")}
          value={reference}
          onChange={setReference}
          numeric={false}
        />
        <DayField label={t("terms_form.for_what_is_sold_from")} value={from} onChange={setFrom} name="holds_from" />
      </Figures>
      <FaultOf path="holds_from" />
      <TermsCount counted={counted} onChange={setCounted} isOpen={!isPlain} />
    </EntryForm>
  );
}
