/** Every rule: first what houses differ in, then the rest of them by what they are about, folded until asked for. */
import { useState } from "react";
import styled from "styled-components";
import { Entry } from "../../kit/Entry";
import { Soft } from "../../kit/parts";
import { NARROW, PHONE } from "../../kit/theme";
import { dayOf, nameOf, ruleName, STANDINGS } from "../../kit/words";
import { t } from "../../language/t";
import { OneValue, type Typed, type Value } from "./OneValue";

const Row = styled.div`
  display: grid;
  grid-template-columns: 190px 262px 1fr;
  ${NARROW} {
    grid-template-columns: 170px minmax(0, 1fr);
    & > :nth-child(n + 3) {
      grid-column: 1 / -1;
    }
  }
  ${PHONE} {
    grid-template-columns: minmax(0, 1fr);
  }
  gap: 14px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
  b {
    font-weight: 650;
    line-height: 1.2;
  }
  b small {
    font-weight: 400;
  }
  small {
    color: var(--soft);
    font-size: 16px;
    line-height: 1.25;
    display: block;
  }
  &[data-changed="true"] {
    box-shadow: inset 4px 0 0 var(--copper);
    padding-left: 10px;
  }
`;
const Standing = styled.span<{ $standing: string }>`
  font-weight: 650;
  color: ${({ $standing }) => ({ published: "var(--sound)", practice: "var(--soft)", memory: "var(--doubt)" })[$standing] ?? "var(--soft)"};
`;
const Matter = styled.details`
  border-bottom: 1px solid var(--line);
  summary {
    min-height: 44px;
    display: flex;
    align-items: center;
    gap: 10px;
    cursor: pointer;
    font-weight: 650;
  }
  summary::before {
    content: "+";
    width: 14px;
    color: var(--soft);
  }
  &[open] > summary::before {
    content: "−";
  }
`;

/** What the schools of the trade differ in. */
const SIDE_QUESTIONS = [
  "rest.recharge_line_volts",
  "rest.school",
  "tester.replace_below_ratio",
  "decision.methods_to_condemn",
  "rest.low_after_charge",
  "stand.after_flat",
  "load.pulls_to_condemn",
  "charge.recovery_first",
  "rest.recharge_line_in",
  "fixed_load.seconds",
  "fixed_load.bounce_volts",
  "crank.floor_volts",
  "tester.scales",
  "steps.tools_at_hand",
];

interface RowsProps {
  version: string;
  rules: Record<string, Value>;
  may: boolean;
  shownOf: (rule: string, value: Value) => Typed;
  isChanged: (rule: string) => boolean;
  onType: (rule: string, next: Typed) => void;
  faultOf: (rule: string) => string | undefined;
}

/** The first part of a rule's path: what it is about. */
const matterOf = (rule: string) => rule.slice(0, rule.indexOf("."));

export function RuleRows(props: RowsProps) {
  const { rules, isChanged, faultOf } = props;
  const [sought, setSought] = useState("");
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const words = sought.trim().toLowerCase().split(/\s+/);
  const isSought = (rule: string, { unit, source }: Value) => {
    const text = `${ruleName(rule)} ${unit} ${source}`.toLowerCase();
    return words.every((word) => text.includes(word));
  };
  const rest = Object.keys(rules).filter((rule) => !SIDE_QUESTIONS.includes(rule));
  const matters = [...new Set(rest.map(matterOf))];
  if (sought.trim() !== "") {
    const matching = Object.entries(rules).filter(
      ([rule, value]) => isSought(rule, value) || faultOf(rule) !== undefined,
    );
    return (
      <>
        <Search value={sought} onChange={setSought} />
        <Soft role="status">
          {t("rule_rows.of_rules", { count: matching.length, rules: Object.keys(rules).length })}
        </Soft>
        <div>
          {matching.map(([rule]) => (
            <RuleRow key={rule} rule={rule} {...props} withMatter />
          ))}
        </div>
      </>
    );
  }
  return (
    <>
      <Search value={sought} onChange={setSought} />
      <div>
        {SIDE_QUESTIONS.filter((rule) => rule in rules).map((rule) => (
          <RuleRow key={rule} rule={rule} {...props} withMatter />
        ))}
      </div>
      <div>
        {matters.map((matter) => {
          const own = rest.filter((rule) => matterOf(rule) === matter);
          const changed = own.filter(isChanged).length;
          const isOpen = open.has(matter) || changed > 0 || own.some((rule) => faultOf(rule) !== undefined);
          return (
            <Matter
              key={matter}
              open={isOpen}
              onToggle={({ currentTarget }) => {
                const next = new Set(open);
                if (currentTarget.open) next.add(matter);
                else next.delete(matter);
                if (next.size !== open.size) setOpen(next);
              }}
            >
              <summary>
                {nameOf(matter)} <Soft>{own.length}</Soft>
                {changed > 0 && <Soft>{t("rule_rows.changed", { changed })}</Soft>}
              </summary>
              {isOpen && own.map((rule) => <RuleRow key={rule} rule={rule} {...props} />)}
            </Matter>
          );
        })}
      </div>
    </>
  );
}

function Search({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  return (
    <Entry
      label={t("rule_rows.find_a_rule")}
      value={value}
      onChange={onChange}
      numeric={false}
      placeholder={t("rule_rows.recharge_line_tester_stock")}
    />
  );
}

function RuleRow({
  rule,
  version,
  rules,
  may,
  shownOf,
  isChanged,
  onType,
  faultOf,
  withMatter = false,
}: RowsProps & { rule: string; withMatter?: boolean }) {
  const value = rules[rule];
  if (!value) return null;
  return (
    <Row data-rule={rule} data-changed={isChanged(rule)}>
      <b>
        {withMatter && <small>{nameOf(matterOf(rule))}</small>}
        {nameOf(rule.slice(rule.indexOf(".") + 1))}
      </b>
      <OneValue
        key={version}
        rule={rule}
        value={value}
        shown={shownOf(rule, value)}
        may={may}
        known={value.choices ?? []}
        onType={(next) => onType(rule, next)}
        fault={faultOf(rule)}
      />
      <small>
        {value.unit}. {value.source}.{" "}
        <Standing $standing={value.standing}>{STANDINGS[value.standing] ?? value.standing}</Standing>
        {", "}
        {t("rule_rows.holds_from", { holds_from: dayOf(value.holds_from) })}
      </small>
    </Row>
  );
}
