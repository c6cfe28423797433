/** Days nobody is in although the week says so: a holiday, works holidays; folded unless there are some. */
import { useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { DayField } from "../../kit/DayField";
import { Entry } from "../../kit/Entry";
import { Button, Soft } from "../../kit/parts";
import { dayOf } from "../../kit/words";
import { t } from "../../language/t";

export type Shut = Schema["ClosedDays"];

const Rows = styled.div`
  display: grid;
  gap: 6px;
  font-size: 16px;
`;
const Row = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
`;
const Adding = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr 1fr max-content;
  gap: 8px;
  align-items: end;
  @media (max-width: 599px) {
    grid-template-columns: 1fr;
  }
`;

interface Props {
  shut: Shut[];
  mayChange: boolean;
  onChange: (shut: Shut[]) => void;
}

export function ClosedDays({ shut, mayChange, onChange }: Props) {
  const [first, setFirst] = useState<string | null>(null);
  const [last, setLast] = useState<string | null>(null);
  const [why, setWhy] = useState("");
  const [open, setOpen] = useState(false);
  return (
    <Rows role="group" aria-label={t("closed_days.closed_besides")}>
      {shut.map((one) => (
        <Row key={`${one.first}${one.last}`}>
          <span>
            {one.first === one.last
              ? dayOf(one.first)
              : t("closed_days.from_until", { first: dayOf(one.first), last: dayOf(one.last) })}{" "}
            <Soft>{one.why}</Soft>
          </span>
          {mayChange && (
            <Button onPress={() => onChange(shut.filter((each) => each !== one))}>{t("closed_days.open_then")}</Button>
          )}
        </Row>
      ))}
      {mayChange && !open && (
        <div>
          <Button onPress={() => setOpen(true)}>{t("closed_days.closed_besides")}</Button>
        </div>
      )}
      {open && (
        <Adding>
          <DayField label={t("closed_days.closed_from")} value={first} onChange={setFirst} name="closed_first" />
          <DayField label={t("closed_days.until")} value={last} onChange={setLast} name="closed_last" />
          <Entry label={t("closed_days.why")} value={why} onChange={setWhy} numeric={false} name="closed_why" />
          <Button
            isDisabled={first === null || (last !== null && last < first)}
            onPress={() => {
              if (first === null) return;
              onChange([...shut, { first, last: last ?? first, why }].sort((a, b) => a.first.localeCompare(b.first)));
              setFirst(null);
              setLast(null);
              setWhy("");
              setOpen(false);
            }}
          >
            {t("closed_days.write_it_in")}
          </Button>
        </Adding>
      )}
    </Rows>
  );
}
