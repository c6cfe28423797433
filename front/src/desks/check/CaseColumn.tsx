/** The battery in hand: its case, and what is known of it. */
import { memo, useState } from "react";
import { Button as AriaButton, Link } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { CasePicture, type CellShown } from "../../case/CasePicture";
import { touchLink } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { lengthText } from "../../kit/units";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, dayOf, monthOf, SIGNS, USES, clockWords } from "../../kit/words";
import { nowMs } from "../../kit/clock";
import { say, small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Pair } from "../../kit/layout";

const AtTheEnd = styled.span`
  margin-left: auto;
`;

const Left = styled.aside<{ $open: boolean }>`
  padding: 10px 14px;
  overflow: auto;
  border-left: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  gap: 6px;
  h2 {
    font-size: 19px;
    line-height: 1.15;
  }
  dl {
    display: grid;
    grid-template-columns: fit-content(86px) minmax(0, 1fr);
    gap: 3px 6px;
    font-size: 16px;
    line-height: 1.2;
  }
  dt {
    color: var(--soft);
  }
  dd {
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  a {
    ${touchLink}
  }
  ${NARROW} {
    display: ${({ $open }) => ($open ? "flex" : "none")};
    grid-row: 1;
    grid-column: 1 / -1;
    border-left: none;
    border-bottom: 1px solid var(--line);
    flex-direction: row;
    flex-wrap: wrap;
    gap: 18px;
    max-height: 50vh;
    svg {
      width: 180px;
    }
    dl {
      flex: 1 1 240px;
      grid-template-columns: fit-content(90px) minmax(0, 1fr);
    }
  }
`;
const Strip = styled(AriaButton)`
  display: none;
  ${NARROW} {
    display: flex;
    gap: 6px 14px;
    flex-wrap: wrap;
    align-items: center;
    grid-row: 1;
    grid-column: 1 / -1;
    width: 100%;
    min-height: 44px;
    padding: 4px 16px;
    border: none;
    border-bottom: 1px solid var(--line);
    background: none;
    text-align: left;
    font-size: 16px;
    cursor: pointer;
    color: var(--soft);
    b {
      color: var(--ink);
      font-size: 17px;
    }
  }
`;

interface ColumnProps {
  view: Schema["CheckView"];
  size: Schema["Size"] | null;
  judgement: Schema["Judgement"];
  who: Schema["Me"];
  marks: Schema["Mark"][];
  cells: CellShown[];
}

const storedWords = ({ capacity_ah_20h: ah, reserve_minutes: minutes }: Schema["Battery"]) =>
  [ah ? t("{0} Ah", ah) : "", minutes ? t("{0} min", minutes) : ""].filter(Boolean).join(", ") || t("not on the label");

/** What it can give, as all methods together say, with its width. */
const givesWords = ({ cca_amps: amps, low_amps: low, high_amps: high, conflict }: Schema["Estimate"]) =>
  conflict ? t("{0} to {1} CCA, they differ", low, high) : t("{0} ±{1} CCA", amps, Math.round((high - low) / 2));

const ageWords = ({ years, months, past_usual }: Schema["Age"]) =>
  `${years ? t("{0} y", years) + " " : ""}${t("{0} m", months)}${past_usual ? t(", past the usual") : ""}`;

export const CaseColumn = memo(function CaseColumn({ view, size, judgement, who, marks, cells }: ColumnProps) {
  const label = view.battery;
  const [open, setOpen] = useState(false);
  const rows: [string, string][] = [
    [t("rated"), view.limits.rating_words ?? storedWords(label)],
    [t("gives"), judgement.estimate ? givesWords(judgement.estimate) : ""],
    [
      t("hangs"),
      view.stay ? t("{0}, since {1}", view.stay.charger, clockWords(view.stay.connected_at, new Date(nowMs()))) : "",
    ],
    [t("due"), view.promised_at ? t("promised {0}", clockWords(view.promised_at, new Date(nowMs()))) : ""],
    [t("type"), `${CHEMISTRIES[label.chemistry ?? "flooded"]}, ${label.nominal_volts ?? 12}\u00a0V`],
    [t("seen"), marks.map((mark, index) => `${index + 1} ${small(SIGNS[mark.sign])}`).join(", ")],
    [t("size"), view.size ? `${view.size.code}, + ${say(view.size.positive_side)}` : t("not known")],
    [
      t("case"),
      view.size
        ? `${[view.size.length_mm, view.size.width_mm, view.size.height_mm].map((mm) => lengthText(mm, who.store).replace(/ \D+$/, "")).join(" × ")} ${who.store.length_unit}`
        : "",
    ],
    [t("made"), label.made_on ? monthOf(label.made_on) : t("not read")],
    [t("old"), judgement.age ? ageWords(judgement.age) : ""],
    [t("sold"), view.sold_on ? t("{0}, ours", dayOf(view.sold_on)) : t("no sale on record")],
    [
      t("car"),
      view.car
        ? `${view.car.name}${view.context.stop_start_car ? t(", stop-start") : ""}`
        : view.context.stop_start_car
          ? "stop-start"
          : t("not known"),
    ],
    [t("came"), small(CAME_IN[view.context.came_in ?? "carried_in"])],
    [t("says"), small(COMPLAINTS[view.context.complaint ?? "check_only"])],
    [t("use"), small(USES[view.context.use ?? "private"])],
    [
      t("for"),
      view.customer_erased
        ? t("erased")
        : [view.customer_name, view.customer_phone, view.customer_plate].filter(Boolean).join(", "),
    ],
  ];
  const brief = [
    view.limits.rating_words,
    CHEMISTRIES[label.chemistry ?? "flooded"],
    view.size?.code,
    view.customer_name,
  ];
  return (
    <>
      <Strip onPress={() => setOpen(!open)} aria-expanded={open}>
        <b>{label.line || t("No line on it")}</b>
        {brief.filter(Boolean).map((word) => (
          <span key={word}>{word}</span>
        ))}
        <AtTheEnd>{open ? t("less") : t("more")}</AtTheEnd>
      </Strip>
      <Left aria-label={t("The battery")} $open={open}>
        <h2>{label.line || t("No line on it")}</h2>
        <CasePicture
          size={size}
          volts={label.nominal_volts}
          charge={judgement.state_of_charge}
          outcome={judgement.outcome}
          marks={marks}
          cells={cells}
        />
        <dl>
          {rows
            .filter(([, value]) => value)
            .map(([name, value]) => (
              <Pair key={name}>
                <dt>{name}</dt>
                <dd>{value}</dd>
              </Pair>
            ))}
        </dl>
        <Link href={`/take-in/${view.tag}`} aria-label={t("Correct the label")}>
          {t("correct")}
        </Link>
      </Left>
    </>
  );
});
