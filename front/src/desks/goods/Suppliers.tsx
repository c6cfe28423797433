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

const DAYS = [
  t("suppliers.mon"),
  t("suppliers.tue"),
  t("suppliers.wed"),
  t("suppliers.thu"),
  t("suppliers.fri"),
  t("suppliers.sat"),
  t("suppliers.sun"),
];
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
          <Button onPress={() => setPicked("new")}>{t("screens.write_one_in")}</Button>
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
                {t("suppliers.days", {
                  delivers_on: row.supplier.delivers_on.map((day) => DAYS[day]).join(", ") || t("suppliers.no_days"),
                  count: row.supplier.lead_days,
                  order_before:
                    row.supplier.order_before &&
                    t("suppliers.ordered_before", { order_before: row.supplier.order_before }),
                })}
                {row.next_on && t("suppliers.ordered_now_it_is_here", { next_on: row.next_on })}
                <br />
                <Soft>{row.supplier.terms}</Soft>
              </span>
              {isLead && (
                <Button onPress={() => setPicked(row.id)} aria-label={t("screens.change", { name: row.supplier.name })}>
                  {t("suppliers.change")}
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
      label={row ? t("screens.change", { name: row.supplier.name }) : t("suppliers.write_a_supplier_in")}
      write={write}
      within="supplier."
      ready={name.trim() !== "" && number !== null}
      onSend={() =>
        write.write({ name, lead_days: number ?? 0, delivers_on: days.map(Number), order_before: before, terms })
      }
      keep={t("screens.keep")}
      onLeave={onDone}
    >
      <Figures>
        <Typed
          path="name"
          label={t("screens.name")}
          value={name}
          onChange={setName}
          numeric={false}
          name="supplier"
          autoFocus
        />
        <Typed
          path="lead_days"
          label={t("suppliers.from_order_to_here")}
          value={lead}
          onChange={setLead}
          unit={t("suppliers.days_2")}
          name="lead"
        />
        <Typed
          path="order_before"
          label={t("suppliers.ordered_before_2")}
          value={before}
          onChange={setBefore}
          numeric={false}
          placeholder="15:00"
          name="before"
        />
      </Figures>
      <div>
        <Legend>{t("suppliers.brings_on")}</Legend>
        <Chips
          selectionMode="multiple"
          aria-label={t("suppliers.brings_on")}
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
      <Typed path="terms" label={t("suppliers.terms")} value={terms} onChange={setTerms} numeric={false} />
    </EntryForm>
  );
}
