/** A tool written into the book, or written anew; what stood before stays readable below. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { askAgain, put } from "../../api/live";
import { equipment, toolOf, rack } from "../../api/queries";
import { newId } from "../../kit/clock";
import { DayField } from "../../kit/DayField";
import { Button, Choice, Soft } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { dayOf, timeOf } from "../../kit/words";
import { Modes } from "./Modes";
import { Some } from "./Some";
import { ASKED, KINDS, STATES, fieldsOf, wordsOf, bodyOf, type Kind, type Typed } from "./tool";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

const Sheet = styled(Form)`
  display: grid;
  gap: 12px;
`;
const Figures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
  align-items: end;
`;
const Acts = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
`;
const Fault = styled.p`
  color: var(--failed);
  font-weight: 650;
`;
const Before = styled.ol`
  font-size: 16px;
  line-height: 1.3;
  li {
    padding: 5px 0;
    border-bottom: 1px solid var(--line);
  }
`;

interface Props {
  kind: Kind;
  row: Schema["EquipmentView"] | null;
  onDone: () => void;
}

export function ToolForm({ kind, row, onDone }: Props) {
  const [typed, setTyped] = useState<Typed>(() => fieldsOf(kind, row?.equipment ?? null));
  const writeId = useRef(newId());
  const { data: kept } = useQuery({ ...toolOf(row?.id ?? 0), enabled: row !== null });
  const write = useMutation({
    mutationFn: () => {
      const body = { equipment: bodyOf(typed), based_on: row?.edition ?? 0 };
      const params = writeHeader(writeId.current);
      return answerOf(
        row
          ? api.PUT("/api/equipment/{equipment_id}", { params: { ...params, path: { equipment_id: row.id } }, body })
          : api.POST("/api/equipment", { params, body }),
      );
    },
    onSuccess: (book) => {
      put(equipment.queryKey, book);
      void askAgain(rack.queryKey, ["battery"], ["equipment"]);
      onDone();
    },
    onError: (error) => {
      if (!(error instanceof ApiProblem) || error.status >= 500) return; // without an answer it is the same write
      writeId.current = newId();
      if (error.status === 409) void askAgain(equipment.queryKey);
    },
  });
  const change = (next: Partial<Typed>) => setTyped((before) => ({ ...before, ...next }));
  const figure = (name: string, text: string) => change({ figures: { ...typed.figures, [name]: text } });
  const problem = write.error instanceof ApiProblem ? write.error : null;
  const fault = (path: string) =>
    problem?.errors.find((one) => one.path.replace(/^equipment\./, "").replace(`tool.${kind}.`, "tool.") === path)
      ?.message;
  const elsewhere = write.error && !problem?.errors.length ? write.error.message : null;
  return (
    <Sheet
      aria-label={
        row
          ? t("screens.write_anew", { name: row.equipment.name })
          : t("tool_form.write_in_a", { kind: small(KINDS[kind]) })
      }
      onSubmit={(event) => {
        event.preventDefault();
        write.mutate();
      }}
    >
      <h2>{row ? row.equipment.name : `A ${small(KINDS[kind])}`}</h2>
      <Figures>
        <Entry
          label={t("screens.name")}
          value={typed.name}
          onChange={(name) => change({ name })}
          numeric={false}
          name="name"
          autoFocus={!row}
          problem={fault("name")}
        />
        {ASKED[kind].map((one) =>
          one.kind === "figure" ? (
            <Entry
              key={one.name}
              label={one.label}
              value={typed.figures[one.name] ?? ""}
              onChange={(text) => figure(one.name, text)}
              unit={one.unit ?? ""}
              name={one.name}
              problem={fault(`tool.${one.name}`)}
              {...(one.empty ? { placeholder: one.empty } : {})}
            />
          ) : null,
        )}
      </Figures>
      {ASKED[kind].map((one) =>
        one.kind === "flag" ? (
          <Choice
            key={one.name}
            label={one.label}
            value={typed.figures[one.name] ?? "no"}
            words={{ yes: one.yes, no: one.no }}
            onChange={(answer) => figure(one.name, answer)}
          />
        ) : one.kind === "choice" ? (
          <Choice
            key={one.name}
            label={one.label}
            value={typed.figures[one.name] ?? ""}
            words={one.words}
            onChange={(answer) => figure(one.name, answer)}
          />
        ) : one.kind === "some" ? (
          <Some
            key={one.name}
            label={one.label}
            words={one.words}
            value={typed.some[one.name] ?? []}
            problem={fault(`tool.${one.name}`)}
            onChange={(some) => change({ some: { ...typed.some, [one.name]: some } })}
          />
        ) : null,
      )}
      {kind === "charger" && <Modes modes={typed.modes} onChange={(modes) => change({ modes })} fault={fault} />}
      <Choice label={t("tool_form.state")} value={typed.state} words={STATES} onChange={(state) => change({ state })} />
      <Figures>
        <DayField
          label={t("tool_form.last_checked")}
          value={typed.checkedOn}
          onChange={(checkedOn) => change({ checkedOn })}
          problem={fault("checked_on")}
        />
        <Entry
          label={t("tool_form.checked_every")}
          value={typed.everyMonths}
          onChange={(everyMonths) => change({ everyMonths })}
          unit={t("screens.months")}
          placeholder={t("screens.as_the_house")}
          name="check_every_months"
          problem={fault("check_every_months")}
        />
      </Figures>
      <Entry
        label={t("tool_form.remarks")}
        value={typed.remarks}
        onChange={(remarks) => change({ remarks })}
        numeric={false}
        name="remarks"
        problem={fault("remarks")}
      />
      {elsewhere && <Fault role="alert">{elsewhere}</Fault>}
      {fault("tool") && <Fault role="alert">{fault("tool")}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.isPending}>
          {row ? t("screens.write_it_anew") : t("screens.write_it_in")}
        </Button>
        <Button type="button" onPress={onDone}>
          {t("screens.leave_it")}
        </Button>
      </Acts>
      {kept && kept.before.length > 1 && (
        <>
          <h2>{t("screens.written_before")}</h2>
          <Before>
            {kept.before.map((entry) => (
              <li key={entry.edition}>
                {dayOf(entry.written_at)} {timeOf(entry.written_at)}, {entry.who}: {wordsOf(entry.equipment)};{" "}
                {small(STATES[entry.equipment.state ?? "in_use"])}
                <Soft>{entry.equipment.remarks && ` ${entry.equipment.remarks}`}</Soft>
              </li>
            ))}
          </Before>
        </>
      )}
    </Sheet>
  );
}
