/** The battery in hand: its case, and what is known of it. */
import { memo } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { CasePicture, type CellShown } from "../../case/CasePicture";
import { touchLink } from "../../kit/parts";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, dayOf, USES } from "../../kit/words";

const Left = styled.aside`
  padding: 14px 16px;
  overflow: auto;
  border-right: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  gap: 8px;
  h1 {
    font-size: 21px;
    line-height: 1.15;
  }
  dl {
    display: grid;
    grid-template-columns: 58px 1fr;
    gap: 3px 8px;
    font-size: 15px;
    line-height: 1.25;
  }
  dt {
    color: var(--soft);
  }
  dd {
    font-weight: 600;
  }
  a {
    ${touchLink}
  }
`;

interface ColumnProps {
  view: Schema["CheckView"];
  judgement: Schema["Judgement"];
  who: Schema["Me"];
  marks: Schema["Mark"][];
  cells: CellShown[];
}

export const CaseColumn = memo(function CaseColumn({ view, judgement, who, marks, cells }: ColumnProps) {
  const label = view.battery;
  const rows: [string, string][] = [
    ["rated", view.limits.rating_words ?? "not on the label"],
    ["type", `${CHEMISTRIES[label.chemistry ?? "flooded"]}, ${label.nominal_volts ?? 12} V`],
    ["size", view.size ? `${view.size.code}, + ${view.size.positive_side}` : "not known"],
    ["made", label.made_on ? dayOf(label.made_on).replace(/^\d+ /, "") : "not read"],
    ["sold", view.sold_on ? `${dayOf(view.sold_on)}, ours` : "no sale on record"],
    [
      "car",
      view.car
        ? `${view.car.name}${view.context.stop_start_car ? ", stop-start" : ""}`
        : view.context.stop_start_car
          ? "stop-start"
          : "not known",
    ],
    [
      "came",
      `${CAME_IN[view.context.came_in ?? "carried_in"].toLowerCase()}, ${COMPLAINTS[view.context.complaint ?? "check_only"].toLowerCase()}`,
    ],
    ["use", USES[view.context.use ?? "private"]],
    [
      "for",
      view.customer_erased
        ? "erased"
        : [view.customer_name, view.customer_phone, view.customer_plate].filter(Boolean).join(", "),
    ],
  ];
  return (
    <Left>
      <div style={{ display: "flex", justifyContent: "space-between", alignItems: "center" }}>
        <h1>{label.line || "No line on it"}</h1>
        <Link href={`/take-in/${view.tag}`} aria-label="Correct the label">
          correct
        </Link>
      </div>
      <CasePicture
        size={view.size}
        store={who.store}
        charge={judgement.state_of_charge}
        outcome={judgement.outcome}
        marks={marks}
        cells={cells}
      />
      <dl>
        {rows
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} style={{ display: "contents" }}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
      </dl>
    </Left>
  );
});
