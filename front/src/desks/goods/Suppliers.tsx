/** Who brings goods, on which days, on what terms. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { suppliers } from "../../api/queries";
import { EntryForm, Typed } from "../../kit/EntryForm";
import { Button, chipStyle, labelStyle, Soft } from "../../kit/parts";
import { numberOf } from "../../kit/units";
import { Figures, Small } from "./parts";
import { useWrite } from "./useWrite";
import { t } from "../../language/t";

const SupplierLine = styled.li`
  display: flex;
  justify-content: space-between;
  gap: 10px;
`;
const SupplierName = styled.b`
  font-size: 18px;
`;

const DAYS = [t("Mon"), t("Tue"), t("Wed"), t("Thu"), t("Fri"), t("Sat"), t("Sun")];
const Chips = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const Chip = styled(ToggleButton)`
  ${chipStyle}
`;
const Legend = styled.span`
  ${labelStyle}
`;

export function Suppliers({ isLead }: { isLead: boolean }) {
  const { data: found } = useQuery(suppliers);
  const [picked, setPicked] = useState<number | "new" | null>(null);
  if (picked === "new") return <SupplierForm row={null} onDone={() => setPicked(null)} />;
  return (
    <>
      {isLead && (
        <div>
          <Button onPress={() => setPicked("new")}>{t("Write one in")}</Button>
        </div>
      )}
      <Small>
        {found?.map((row) =>
          row.id === picked ? (
            <li key={row.id}>
              <SupplierForm row={row} onDone={() => setPicked(null)} />
            </li>
          ) : (
            <SupplierLine key={row.id}>
              <span>
                <SupplierName>{row.supplier.name}</SupplierName>
                <br />
                {t(
                  "{0}; {1} days{2}",
                  row.supplier.delivers_on.map((day) => DAYS[day]).join(", ") || t("no days"),
                  row.supplier.lead_days,
                  row.supplier.order_before && t(", ordered before {0}", row.supplier.order_before),
                )}
                {row.next_on && t("; ordered now it is here {0}", row.next_on)}
                <br />
                <Soft>{row.supplier.terms}</Soft>
              </span>
              {isLead && (
                <Button onPress={() => setPicked(row.id)} aria-label={t("Change {0}", row.supplier.name)}>
                  {t("Change")}
                </Button>
              )}
            </SupplierLine>
          ),
        )}
      </Small>
    </>
  );
}

function SupplierForm({ row, onDone }: { row: Schema["SupplierView"] | null; onDone: () => void }) {
  const start = row?.supplier;
  const [name, setName] = useState(start?.name ?? "");
  const [lead, setLead] = useState(String(start?.lead_days ?? 1));
  const [days, setDays] = useState<string[]>((start?.delivers_on ?? [0, 1, 2, 3, 4]).map(String));
  const [before, setBefore] = useState(start?.order_before ?? "");
  const [terms, setTerms] = useState(start?.terms ?? "");
  const write = useWrite((supplier: Schema["SupplierWritten"], named) => {
    const body = { supplier, based_on: row?.edition ?? 0 };
    return answerOf(
      row
        ? api.PUT("/api/suppliers/{supplier_id}", { params: { ...named, path: { supplier_id: row.id } }, body })
        : api.POST("/api/suppliers", { params: named, body }),
    );
  }, onDone);
  const number = numberOf(lead);
  return (
    <EntryForm
      label={row ? t("Change {0}", row.supplier.name) : t("Write a supplier in")}
      write={write}
      within="supplier."
      ready={name.trim() !== "" && number !== null}
      onSend={() =>
        write.write({ name, lead_days: number ?? 0, delivers_on: days.map(Number), order_before: before, terms })
      }
      keep={t("Keep")}
      onLeave={onDone}
    >
      <Figures>
        <Typed
          path="name"
          label={t("Name")}
          value={name}
          onChange={setName}
          numeric={false}
          name="supplier"
          autoFocus
        />
        <Typed
          path="lead_days"
          label={t("From order to here")}
          value={lead}
          onChange={setLead}
          unit={t("days")}
          name="lead"
        />
        <Typed
          path="order_before"
          label={t("Ordered before")}
          value={before}
          onChange={setBefore}
          numeric={false}
          placeholder="15:00"
          name="before"
        />
      </Figures>
      <div>
        <Legend>{t("Brings on")}</Legend>
        <Chips
          selectionMode="multiple"
          aria-label={t("Brings on")}
          selectedKeys={days}
          onSelectionChange={(keys) => setDays([...keys].map(String).sort())}
        >
          {DAYS.map((day, index) => (
            <Chip key={day} id={String(index)}>
              {day}
            </Chip>
          ))}
        </Chips>
      </div>
      <Typed path="terms" label={t("Terms")} value={terms} onChange={setTerms} numeric={false} />
    </EntryForm>
  );
}
