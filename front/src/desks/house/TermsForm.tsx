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
  const write = useWrite(
    (_: null, named) =>
      answerOf(
        api.POST("/api/house/terms", {
          params: named,
          body: {
            line: line.line,
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
      label={t("New terms of {0}", line.line)}
      write={write}
      onSend={() => write.write(null)}
      keep={t("Keep as a new edition")}
      acts={<Soft>{t("What was sold before that day keeps its own terms.")}</Soft>}
    >
      <Figures>
        <Typed path="free_months" label={t("Free")} value={free} onChange={setFree} unit={t("months")} name="free" />
        <Typed
          path="pro_rata_months"
          label={t("By months used")}
          value={proRata}
          onChange={setProRata}
          unit={t("months")}
          name="pro-rata"
        />
        <Typed
          path="date_code_allowance_months"
          label={t("Of shelf")}
          value={shelf}
          onChange={setShelf}
          unit={t("months")}
          name="shelf"
        />
      </Figures>
      <Some label={t("Not for")} words={USES} value={uses} onChange={(picked) => setUses(picked as Schema["Use"][])} />
      <Figures>
        <Typed
          path="reference"
          label={t("Where they stand")}
          value={reference}
          onChange={setReference}
          numeric={false}
        />
        <DayField label={t("For what is sold from")} value={from} onChange={setFrom} name="holds_from" />
      </Figures>
      <FaultOf path="holds_from" />
    </EntryForm>
  );
}
