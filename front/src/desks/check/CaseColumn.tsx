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
import { small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Pair } from "../../kit/layout";
import { wordOf } from "../../language/speak";

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
const Unread = styled(Link)`
  && {
    color: var(--plum);
    text-decoration: underline dotted;
    text-underline-offset: 3px;
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
  [ah ? t("case_column.ah", { ah }) : "", minutes ? t("screens.min", { minutes }) : ""].filter(Boolean).join(", ") ||
  t("case_column.not_on_the_label");

/** What it can give, as all methods together say, with its width. */
const givesWords = ({ cca_amps: amps, low_amps: low, high_amps: high, conflict }: Schema["Estimate"]) =>
  conflict
    ? t("case_column.to_cca_they_differ", { low, high })
    : t("case_column.cca", { amps, high: Math.round((high - low) / 2) });

const ageWords = ({ years, months, past_usual }: Schema["Age"]) =>
  `${years ? t("case_column.y", { years }) + " " : ""}${t("case_column.m", { months })}${past_usual ? t("case_column.past_the_usual") : ""}`;

/** Read in ink, told in quotes, lent and assumed in plum: touched, it is corrected, and is read from then on. */
type Origin = "read" | "told" | "lent" | "assumed";

const ORIGIN_OF: Record<Schema["RatingSource"], Origin> = {
  label: "read",
  vehicle: "lent",
  catalogue: "lent",
  assumed: "assumed",
};

const ratingOrigin = (label: Schema["Battery"]): Origin =>
  label.rating ? ORIGIN_OF[label.rating_source ?? "label"] : label.capacity_ah_20h ? "read" : "assumed";

function typeWords({
  chemistry = "flooded",
  chemistry_source: source = "label",
  nominal_volts = 12,
}: Schema["Battery"]) {
  const name = `${CHEMISTRIES[chemistry]}, ${nominal_volts}\u00a0V`;
  if (source === "vehicle") return t("case_column.as_the_car_asks", { name });
  return source === "assumed" ? t("case_column.assumed", { name }) : name;
}

/** Its size; what its car lent says so. */
function sizeWords({ size, battery }: Schema["CheckView"]) {
  if (!size) return t("case_column.not_known");
  const name = `${size.code}, + ${wordOf(size.positive_side)}`;
  return battery.size_source === "vehicle" ? t("case_column.as_the_car_asks", { name }) : name;
}

const saysWords = (complaint: Schema["Complaint"]) =>
  complaint === "not_said" ? "" : t("case_column.told", { words: small(COMPLAINTS[complaint]) });

export const CaseColumn = memo(function CaseColumn({ view, size, judgement, who, marks, cells }: ColumnProps) {
  const label = view.battery;
  const [open, setOpen] = useState(false);
  const rows: [string, string, Origin?][] = [
    [t("screens.rated"), view.limits.rating_words ?? storedWords(label), ratingOrigin(label)],
    [t("case_column.gives"), judgement.estimate ? givesWords(judgement.estimate) : ""],
    [
      t("case_column.hangs"),
      view.stay
        ? t("case_column.since", {
            charger: view.stay.charger,
            connected_at: clockWords(view.stay.connected_at, new Date(nowMs())),
          })
        : "",
    ],
    [
      t("screens.due"),
      view.promised_at ? t("screens.promised", { promised_at: clockWords(view.promised_at, new Date(nowMs())) }) : "",
    ],
    [t("screens.type"), typeWords(label), ORIGIN_OF[label.chemistry_source ?? "label"]],
    [t("case_column.seen"), marks.map((mark, index) => `${index + 1} ${small(SIGNS[mark.sign])}`).join(", ")],
    [t("screens.size"), sizeWords(view), ORIGIN_OF[label.size_source ?? "label"]],
    [
      t("case_column.case"),
      view.size
        ? `${[view.size.length_mm, view.size.width_mm, view.size.height_mm].map((mm) => lengthText(mm, who.store).replace(/ \D+$/, "")).join(" × ")} ${who.store.length_unit}`
        : "",
    ],
    [t("screens.made"), label.made_on ? monthOf(label.made_on) : t("screens.not_read")],
    [t("case_column.old"), judgement.age ? ageWords(judgement.age) : ""],
    [
      t("screens.sold"),
      view.sold_on ? t("case_column.ours", { sold_on: dayOf(view.sold_on) }) : t("case_column.no_sale_on_record"),
    ],
    [
      t("screens.car"),
      view.car
        ? `${view.car.name}${view.context.stop_start_car ? t("screens.stop_start") : ""}`
        : view.context.stop_start_car
          ? "stop-start"
          : t("case_column.not_known"),
    ],
    [t("screens.came"), small(CAME_IN[view.context.came_in ?? "carried_in"])],
    [t("screens.says"), saysWords(view.context.complaint ?? "not_said"), "told"],
    [t("screens.use"), small(USES[view.context.use ?? "private"])],
    [
      t("screens.for"),
      view.customer_erased
        ? t("case_column.erased")
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
        <b>{label.line || t("screens.no_line_on_it")}</b>
        {brief.filter(Boolean).map((word) => (
          <span key={word}>{word}</span>
        ))}
        <AtTheEnd>{open ? t("case_column.less") : t("case_column.more")}</AtTheEnd>
      </Strip>
      <Left aria-label={t("case_column.the_battery")} $open={open}>
        <h2>{label.line || t("screens.no_line_on_it")}</h2>
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
            .map(([name, value, origin]) => (
              <Pair key={name}>
                <dt>{name}</dt>
                <dd>
                  {origin === "lent" || origin === "assumed" ? (
                    <Unread href={`/take-in/${view.tag}`}>{value}</Unread>
                  ) : (
                    value
                  )}
                </dd>
              </Pair>
            ))}
        </dl>
        <Link href={`/take-in/${view.tag}`} aria-label={t("case_column.correct_the_label")}>
          {t("case_column.correct")}
        </Link>
      </Left>
    </>
  );
});
