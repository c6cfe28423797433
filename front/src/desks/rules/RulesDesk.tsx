/** House rules: every value with its unit, source and standing. A lead makes a new version; old judgements keep theirs. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, answerOf, writeHeader } from "../../api/client";
import { put } from "../../api/live";
import { queries, rules } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { newId } from "../../kit/clock";
import { Button, Choice, Empty, Page, Soft, touchLink } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { NARROW, UPRIGHT } from "../../kit/theme";
import { dayOf, timeOf } from "../../kit/words";
import { Heads } from "../goods/parts";
import { CalendarAddress } from "./CalendarAddress";
import { Fault, type Typed, type Value } from "./OneValue";
import { RuleRows } from "./RuleRows";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1fr) 350px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    overflow: auto;
    align-content: start;
  }
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Column = styled.section`
  padding: 14px 20px;
  overflow: auto;
  min-width: 0;
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
  display: flex;
  flex-direction: column;
  gap: 12px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 22px;
  }
  h2 {
    font-size: 17px;
  }
`;
const Past = styled.ol`
  li {
    padding: 7px 0;
    border-bottom: 1px solid var(--line);
    line-height: 1.25;
    font-size: 16px;
  }
`;

const ToHouse = styled(Link)`
  ${touchLink}
`;

const FOLLOW_THE_SCHOOL = { now: t("rules_desk.rules_in_force") } as const;

function asTyped(value: unknown): Typed {
  if (Array.isArray(value)) return value.map(String);
  if (typeof value === "object" && value !== null)
    return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, typedOne(part)]));
  return typedOne(value);
}

/** A figure as the place writes it; what is picked is a word. */
const typedOne = (value: unknown) => (typeof value === "number" ? localFigure(value) : String(value));

function asWritten(typed: Typed, was: unknown): unknown {
  if (Array.isArray(typed)) return typed;
  if (typeof typed === "object")
    return Object.fromEntries(
      Object.entries(typed).map(([name, part]) => [name, asWritten(part, (was as Record<string, unknown>)[name])]),
    );
  return typeof was === "number" ? Number(typed.replace(",", ".")) : typed;
}

export function RulesDesk() {
  const { data: found, error } = useQuery(rules);
  const [typed, setTyped] = useState<Record<string, Typed>>({});
  const [school, setSchool] = useState("now");
  const [reason, setReason] = useState("");
  const writeId = useRef(newId());
  const change = useMutation({
    mutationFn: (values: Record<string, unknown>) =>
      answerOf(
        api.POST("/api/rules", {
          params: writeHeader(writeId.current),
          body: { school: school === "now" ? null : school, values, reason, based_on: found?.version ?? "" },
        }),
      ),
    onError: (error) => {
      if (!(error instanceof ApiProblem) || error.status >= 500) return; // without an answer it is the same write, sent again
      writeId.current = newId();
      if (error.status === 409) void queries.invalidateQueries({ queryKey: rules.queryKey });
    },
    onSuccess: (answer) => {
      writeId.current = newId();
      put(rules.queryKey, answer);
      void queries.invalidateQueries({ queryKey: ["reference"] });
      setTyped({});
      setReason("");
      setSchool("now");
    },
  });
  if (error && !found)
    return (
      <Page>
        <Empty>
          <h2>{error.message}</h2>
        </Empty>
      </Page>
    );
  if (!found) return <Outline />;
  const all = found.rules as Record<string, Value>;
  const preset = found.schools.find((one) => one.school === school);
  const shownOf = (rule: string, value: Value) =>
    typed[rule] ?? asTyped(preset && rule in preset.values ? preset.values[rule] : value.value);
  const problem = change.error instanceof ApiProblem ? change.error : null;

  function values(): Record<string, unknown> {
    return Object.fromEntries(
      Object.entries(typed).map(([rule, text]) => {
        return [rule, asWritten(text, all[rule]?.value)];
      }),
    );
  }

  return (
    <Columns>
      <Column aria-label={t("rules_desk.values")}>
        <Heads>
          <h1>
            {t("rules_desk.house_rules", { version: found.version })}{" "}
            <Soft>{t("rules_desk.from", { name: found.name, holds_from: dayOf(found.holds_from) })}</Soft>
          </h1>
          {found.may_change && <ToHouse href="/house">{t("rules_desk.the_house_and_its_people")}</ToHouse>}
        </Heads>
        <RuleRows
          version={found.version}
          rules={all}
          may={found.may_change}
          shownOf={shownOf}
          isChanged={(rule) =>
            rule in typed || (preset !== undefined && rule in preset.values && preset.values[rule] !== all[rule]?.value)
          }
          onType={(rule, next) => setTyped({ ...typed, [rule]: next })}
          faultOf={(rule) => problem?.of(`values.${rule}`)}
        />
      </Column>
      <Column aria-label={t("rules_desk.a_new_version")}>
        <h2>
          {found.may_change ? t("rules_desk.make_a_new_version") : t("rules_desk.only_a_lead_makes_a_new_version")}
        </h2>
        {found.may_change && (
          <>
            <Choice
              label={t("rules_desk.start_from")}
              value={school}
              words={{
                ...FOLLOW_THE_SCHOOL,
                ...Object.fromEntries(found.schools.map((one) => [one.school, one.name])),
              }}
              onChange={setSchool}
            />
            <Entry
              label={t("rules_desk.reason")}
              value={reason}
              onChange={setReason}
              numeric={false}
              problem={problem?.of("reason")}
              placeholder={t("rules_desk.why_the_house_changes_it")}
            />
            <p>
              {t("rules_desk.of_your_own", {
                count: Object.keys(typed).length,
                values: Object.keys(typed).length === 1 ? t("rules_desk.value") : t("rules_desk.values_2"),
                faults: school === "now" ? "" : t("rules_desk.on", { name: preset?.name ?? "" }),
              })}
            </p>
            {change.error && <Fault role="alert">{change.error.message}</Fault>}
            <Button
              $tone="strong"
              isDisabled={
                reason.trim().length < 3 || (school === "now" && Object.keys(typed).length === 0) || change.isPending
              }
              onPress={() => change.mutate(values())}
            >
              {t("rules_desk.new_version_from_now_on")}
            </Button>
            <Soft>{t("rules_desk.every_judgement_made_before_keeps_the")}</Soft>
          </>
        )}
        {found.may_change && <CalendarAddress />}
        <h2>{t("rules_desk.versions")}</h2>
        <Past>
          {found.versions.map((one) => (
            <li key={one.version}>
              <b>{one.version}</b> {one.name}
              <br />
              <Soft>
                {dayOf(one.made_at)} {timeOf(one.made_at)}
                {one.made_by ? `, ${one.made_by}` : ""}: {one.reason}
              </Soft>
            </li>
          ))}
        </Past>
      </Column>
    </Columns>
  );
}
