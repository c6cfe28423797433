/** The reasons, one line each: what decides first, each with its feather's number; what fell off is one folded line. */
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { useQuery } from "@tanstack/react-query";
import type { Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { ruleName, STANDINGS } from "../../kit/words";
import { reasonsOf, type Reason } from "../../vane/geometry";
import { featherPath, featherTone } from "../../vane/Vane";
import { localFigure } from "../../language/catalogue";
import { t } from "../../language/t";
import { wordOf } from "../../language/speak";

const NothingRead = styled.li`
  color: var(--soft);
  padding: 6px;
`;

const List = styled.ul`
  overflow: auto;
  min-height: 0;
  display: grid;
  align-content: start;
`;
const Line = styled(AriaButton)`
  display: grid;
  grid-template-columns: 28px 12px 1fr;
  gap: 7px;
  width: 100%;
  padding: 2px 4px;
  text-align: left;
  min-height: 44px;
  align-items: center;
  background: none;
  border: none;
  border-radius: 6px;
  cursor: pointer;
  line-height: 1.2;
  font-size: 16px;
  b {
    font-weight: 780;
  }
  &[data-hovered],
  &[aria-expanded="true"] {
    background: var(--shelf);
  }
  s {
    color: var(--soft);
  }
`;
const Fold = styled(Line)`
  grid-template-columns: 1fr;
  color: var(--soft);
`;
const Detail = styled.dl`
  display: grid;
  grid-template-columns: 104px 1fr;
  gap: 3px 10px;
  padding: 2px 6px 10px 44px;
  font-size: 16px;
  background: var(--shelf);
  border-radius: 0 0 6px 6px;
  dt {
    color: var(--soft);
  }
`;

const Beyond = styled.li`
  padding: 6px;
  color: var(--soft);
  font-size: 16px;
`;

/** So many stand open; the lighter ones after them are folded. */
const IN_SIGHT = 4;
/** A text as long as this goes on one line. */
const ONE_LINE = 54;

interface Props {
  judgement: Schema["Judgement"];
  chosen: number | null;
  onChoose: (index: number | null) => void;
}

export function Reasons({ judgement, chosen, onChoose }: Props) {
  const [more, setMore] = useState(false);
  const { shown, quiet, dropped } = reasonsOf(judgement);
  const rest = [...shown.slice(IN_SIGHT), ...quiet];
  const folded = [...rest, ...dropped];
  const isOpen = more || folded.some((reason) => reason.index === chosen);
  const version = `${judgement.rules_version}, ${judgement.rules_name}`;
  const draw = (reason: Reason) => (
    <OneReason
      key={reason.index}
      reason={reason}
      version={version}
      open={reason.index === chosen}
      onChoose={onChoose}
    />
  );
  return (
    <List aria-label={t("reasons.reasons")}>
      <Outside all={judgement.outside_validity ?? []} />
      {shown.slice(0, IN_SIGHT).map(draw)}
      {judgement.findings.length === 0 && <NothingRead>{t("reasons.nothing_was_read_yet")}</NothingRead>}
      {folded.length > 0 && (
        <li>
          <Fold aria-expanded={isOpen} onPress={() => setMore(!isOpen)}>
            {foldWords(rest.length, dropped)}
          </Fold>
        </li>
      )}
      {isOpen && folded.map(draw)}
    </List>
  );
}

/** Formulas that were fed with what they were not made for: the figure once, then each and how far it reaches. */
function Outside({ all }: { all: Schema["OutsideValidity"][] }) {
  const figures = [...new Set(all.map((one) => `${localFigure(one.value)} ${one.unit}`))];
  return figures.map((figure) => (
    <Beyond key={figure} data-outside>
      {t("reasons.lies_beyond_worked_out_as_at_the_end", {
        value: figure,
        formulas: all
          .filter((one) => `${localFigure(one.value)} ${one.unit}` === figure)
          .map((one) => t("reasons.to", { words: one.words, low: localFigure(one.low), high: localFigure(one.high) }))
          .join(", "),
      })}
    </Beyond>
  ));
}

function foldWords(rest: number, dropped: Reason[]): string {
  const parts = [];
  if (rest) parts.push(t("reasons.more_noted", { rest }));
  if (dropped.length) parts.push(t("reasons.do_not_count", { count: dropped.length }));
  return parts.join(", ");
}

/** One line: in full where it goes on one, else what was read and what it was held against. */
function lineOf(finding: Schema["Finding"]): string {
  return finding.text.length <= ONE_LINE ? finding.text : `${finding.reading_text}: ${finding.limit_text}`;
}

function OneReason({
  reason: { finding, index, number },
  version,
  open,
  onChoose,
}: {
  reason: Reason;
  version: string;
  open: boolean;
  onChoose: (index: number | null) => void;
}) {
  const { data: known } = useQuery(reference);
  const isHouseRule = known !== undefined && finding.rule in known.rules; // else a table, or common practice
  return (
    <li>
      <Line aria-expanded={open} onPress={() => onChoose(open ? null : index)} data-reason={finding.kind}>
        {number === null ? <span /> : <FeatherMark finding={finding} bold={open} />}
        <b style={{ color: number === null ? "inherit" : featherTone(finding).stroke }}>{number}</b>
        {finding.status === "dropped" ? (
          <span>
            <s>{finding.reading_text}</s> {t("reasons.does_not_count_because")} {finding.why_not}
          </span>
        ) : (
          <span>{lineOf(finding)}</span>
        )}
      </Line>
      {open && (
        <Detail>
          {finding.status !== "dropped" && lineOf(finding) !== finding.text && (
            <>
              <dt>{t("screens.says")}</dt>
              <dd>{finding.text}</dd>
            </>
          )}
          <dt>{t("reasons.read")}</dt>
          <dd>{finding.reading_text}</dd>
          <dt>{t("reasons.held_against")}</dt>
          <dd>{finding.limit_text}</dd>
          {isHouseRule && (
            <>
              <dt>{t("reasons.rule")}</dt>
              <dd>{t("reasons.house_rules", { rule: ruleName(finding.rule), version })}</dd>
            </>
          )}
          <dt>{t("reasons.source")}</dt>
          <dd>
            {finding.source} ({STANDINGS[finding.standing]})
          </dd>
          <dt>{t("reasons.weight")}</dt>
          <dd>
            {finding.status === "dropped"
              ? t("screens.none")
              : t("reasons.of_100", { weight: Math.round(finding.weight * 100), status: finding.status })}
          </dd>
        </Detail>
      )}
    </li>
  );
}

/** The same feather as on the vane, lying in the line. */
function FeatherMark({ finding, bold }: { finding: Schema["Finding"]; bold: boolean }) {
  const { shape, barbs } = featherPath(46, 2);
  const tone = featherTone(finding);
  return (
    <svg width="30" height="18" viewBox="0 -14 48 28" role="img" aria-label={wordOf(finding.status)}>
      <path d={shape} {...tone} strokeWidth={bold ? 5 : 3} />
      <path d={barbs} stroke={tone.stroke} strokeWidth={1.6} fill="none" />
    </svg>
  );
}
