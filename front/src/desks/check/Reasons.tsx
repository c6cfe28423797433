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
import { say, localFigure } from "../../language/catalogue";
import { t } from "../../language/t";

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
    <List aria-label={t("Reasons")}>
      <Outside all={judgement.outside_validity ?? []} />
      {shown.slice(0, IN_SIGHT).map(draw)}
      {judgement.findings.length === 0 && <NothingRead>{t("Nothing was read yet.")}</NothingRead>}
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
      {t(
        "{0} lies beyond {1}: worked out as at the end",
        figure,
        all
          .filter((one) => `${localFigure(one.value)} ${one.unit}` === figure)
          .map((one) => t("{0} ({1} to {2})", say(one.words), localFigure(one.low), localFigure(one.high)))
          .join(", "),
      )}
    </Beyond>
  ));
}

function foldWords(rest: number, dropped: Reason[]): string {
  const parts = [];
  if (rest) parts.push(t("{0} more noted", rest));
  if (dropped.length) parts.push(t("{0} fell off", dropped.length));
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
            <s>{finding.reading_text}</s> {t("fell off:")} {finding.why_not}
          </span>
        ) : (
          <span>{lineOf(finding)}</span>
        )}
      </Line>
      {open && (
        <Detail>
          {finding.status !== "dropped" && lineOf(finding) !== finding.text && (
            <>
              <dt>{t("says")}</dt>
              <dd>{finding.text}</dd>
            </>
          )}
          <dt>{t("read")}</dt>
          <dd>{finding.reading_text}</dd>
          <dt>{t("held against")}</dt>
          <dd>{finding.limit_text}</dd>
          {isHouseRule && (
            <>
              <dt>{t("rule")}</dt>
              <dd>{t("{0}, house rules {1}", ruleName(finding.rule), version)}</dd>
            </>
          )}
          <dt>{t("source")}</dt>
          <dd>
            {finding.source} ({STANDINGS[finding.standing]})
          </dd>
          <dt>{t("weight")}</dt>
          <dd>
            {finding.status === "dropped"
              ? t("none")
              : t("{0} of 100, {1}", Math.round(finding.weight * 100), finding.status)}
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
    <svg width="30" height="18" viewBox="0 -14 48 28" role="img" aria-label={say(finding.status)}>
      <path d={shape} {...tone} strokeWidth={bold ? 5 : 3} />
      <path d={barbs} stroke={tone.stroke} strokeWidth={1.6} fill="none" />
    </svg>
  );
}
