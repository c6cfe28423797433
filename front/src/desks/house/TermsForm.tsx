/** A new edition of a line's warranty terms. */
import { useState } from "react";
import { Form } from "react-aria-components";
import { api, asked, type Schema } from "../../api/client";
import { DayField } from "../../kit/DayField";
import { Button, Entry, Soft } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { USES } from "../../kit/words";
import { Some } from "../equipment/Some";
import { Acts, Fault, Figures } from "../goods/parts";
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
      asked(
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
  const beside = write.beside(
    "free_months",
    "pro_rata_months",
    "date_code_allowance_months",
    "reference",
    "holds_from",
  );
  return (
    <Form
      aria-label={t("New terms of {0}", line.line)}
      style={{ display: "grid", gap: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        write.write(null);
      }}
    >
      <Figures>
        <Entry
          label={t("Free")}
          value={free}
          onChange={setFree}
          unit={t("months")}
          name="free"
          problem={write.of("free_months")}
        />
        <Entry
          label={t("By months used")}
          value={proRata}
          onChange={setProRata}
          unit={t("months")}
          name="pro-rata"
          problem={write.of("pro_rata_months")}
        />
        <Entry
          label={t("Of shelf")}
          value={shelf}
          onChange={setShelf}
          unit={t("months")}
          name="shelf"
          problem={write.of("date_code_allowance_months")}
        />
      </Figures>
      <Some label={t("Not for")} words={USES} value={uses} onChange={(picked) => setUses(picked as Schema["Use"][])} />
      <Figures>
        <Entry
          label={t("Where they stand")}
          value={reference}
          onChange={setReference}
          numeric={false}
          name="reference"
          problem={write.of("reference")}
        />
        <DayField label={t("For what is sold from")} value={from} onChange={setFrom} name="holds_from" />
      </Figures>
      {write.of("holds_from") && <Fault role="alert">{write.of("holds_from")}</Fault>}
      {beside && <Fault role="alert">{beside}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.pending}>
          {t("Keep as a new edition")}
        </Button>
        <Soft>{t("What was sold before that day keeps its own terms.")}</Soft>
      </Acts>
    </Form>
  );
}
