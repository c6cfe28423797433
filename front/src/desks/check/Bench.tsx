/** One check: the rungs in the order of work, the judgement, the case. What is typed lives until it is kept or thrown away. */
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { cellFigures } from "../../case/CasePicture";
import { Drafting } from "../../kit/drafts";
import { isFree, useKeydown } from "../../kit/letters";
import { discard, standByTime, type Waiting } from "../../kit/outbox";
import { Button, Caution, Page } from "../../kit/parts";
import { NARROW, PHONE, UPRIGHT } from "../../kit/theme";
import { limitsWith, pickTool, toolOf, toolsFor, usePicked } from "../../kit/tools";
import { fieldStands } from "../../kit/typeAhead";
import { asksForTime, reasonOf } from "../../kit/WaitingSheet";
import { InlineMark, toneOf } from "../../vane/outcomes";
import { CaseColumn } from "./CaseColumn";
import { logOf } from "./charges";
import { NAME, type Named } from "./naming";
import { dueOf, RUNGS, summaryOf, type Kind, type RungOf } from "./rungs";
import { DoneRung, OpenRung, QuietRung } from "./Rung";
import type { Said } from "./fields";
import { isLoad } from "./spec";
import { UndoLine } from "./UndoLine";
import { Closed } from "./Closed";
import { useBench } from "./useBench";
import { minutesWords, VerdictPanel } from "./VerdictPanel";
import { t } from "../../language/t";
import { Fault } from "../../kit/formParts";

const StepWords = styled.p`
  font-size: 18px;
  font-weight: 700;
  line-height: 1.2;
`;

const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr) 180px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
  }
  ${UPRIGHT} {
    display: block;
    overflow: auto;
  }
`;
const Beside = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
`;
const Rungs = styled.section`
  position: relative; /* what is only spoken scrolls with its word, and never the page */
  padding: 10px 16px 0;
  overflow: auto;
  scroll-padding-bottom: 64px; /* what is reached by keys stops above the line that stays in sight */
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 6px;
  ${UPRIGHT} {
    overflow: visible;
    padding: 10px 12px 0;
  }
`;
/** On a phone the judgement stays in sight above what is typed. */
const Brief = styled.div`
  display: none;
  ${PHONE} {
    display: flex;
    gap: 8px;
    align-items: center;
    position: sticky;
    top: 0;
    z-index: 3;
    padding: 6px 12px;
    font-size: 19px;
    background: var(--shelf);
  }
`;
const QuietOnes = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 2px;
  > * {
    flex: 0 1 auto;
    min-width: 132px;
  }
  .half {
    font-weight: 500;
  }
`;

const NO_MARKS: Schema["Mark"][] = [];

export function Bench({ view, who }: { view: Schema["CheckView"]; who: Schema["Me"] }) {
  const bench = useBench(view);
  const { drafts, papers, foreseen, known, latest, isOpen } = bench;
  usePicked();
  useLayoutEffect(fieldStands, []);
  const { size } = view;

  const openRef = useRef(bench.open);
  const leaveRef = useRef(bench.leave);
  useEffect(() => {
    openRef.current = bench.open;
    leaveRef.current = bench.leave;
  });
  useKeydown((event) => {
    if (!isFree(event, event.shiftKey)) return;
    const pressed = `${event.shiftKey ? "⇧" : ""}${event.key.toUpperCase()}`;
    const rung = RUNGS.find((one) => one.letter === pressed);
    if (!rung) return;
    event.preventDefault();
    if (event.target instanceof HTMLInputElement) event.target.blur(); // leaving keeps what was typed
    bench.open(rung.kind, "open");
  });

  const findingOf = (kind: Kind): Said | undefined => {
    const id = drafts[kind]?.reading?.id ?? latest(kind)?.reading.id;
    return foreseen.judgement.findings.find((found) => found.reading_id === id);
  };
  const seen = (drafts["look"]?.reading ?? latest("look")?.reading) as Schema["Look"] | undefined;
  const marks = seen?.marks ?? NO_MARKS;
  const gravities = (drafts["cells"]?.reading ?? latest("cells")?.reading) as Schema["Cells"] | undefined;
  const ofCells = findingOf("cells");
  const cells = useMemo(() => cellFigures(gravities, ofCells), [gravities, ofCells]);
  const step = foreseen.judgement.next_step;
  const openKind = RUNGS.find(({ kind }) => isOpen(kind))?.kind ?? null;
  const due = dueOf(step.key);
  const saidByRung = due !== null && openKind === due;
  // What the open rung asks for stands until it is kept: as it is typed the judgement goes on, and words must not move under a finger.
  const [asked, setAsked] = useState(step);
  const isTyped = openKind !== null && drafts[openKind] !== undefined;
  if (!isTyped && asked !== step) setAsked(step);
  const asks = isTyped ? asked : step;

  function drawOpen({ kind, letter, title, quiet, Form }: RungOf) {
    const entry = latest(kind);
    const corrects = papers[kind].get<Named>(NAME)?.replaces;
    const corrected = bench.standing.find((one) => one.reading.id === corrects);
    const start = entry?.refused?.reading ?? corrected?.reading ?? null;
    const finding = findingOf(kind);
    const tool = toolOf(kind, view.tools, start);
    const isDue = kind === dueOf(asks.key) && !corrected;
    const mayCorrect = kind !== "look" && !corrected && !papers[kind].isThere && entry !== undefined && !entry.refused;
    return (
      <OpenRung
        key={kind}
        letter={letter}
        title={title}
        says={isDue ? `${asks.why}; ${minutesWords(asks.minutes)}` : corrected ? t("bench.to_be_corrected") : quiet}
        onClose={() => openRef.current(kind, "close")}
        onLeave={() => leaveRef.current(kind)}
      >
        {isDue && !isLoad(asks.key) && (
          <StepWords {...(kind === due && { "data-testid": "next-step" })}>{asks.text}</StepWords>
        )}
        {entry?.refused && <Refused entry={entry.refused} />}
        <Drafting.Provider value={papers[kind]}>
          <Form
            key={`${bench.opened?.kind === kind ? bench.opened.turn : 0}-${entry?.refused?.id ?? ""}`}
            start={start}
            limits={limitsWith(view.limits, tool)}
            tool={tool}
            stay={view.stay}
            before={kind === "charge_run" ? logOf(entry?.reading) : null}
            tools={toolsFor(kind, view.tools)}
            onTool={(equipmentId) => pickTool(kind, equipmentId)}
            size={size}
            battery={view.battery}
            store={who.store}
            due={isDue ? asks.key : null}
            readBefore={entry !== undefined}
            complaint={view.context.complaint ?? "check_only"}
            hazards={bench.hazards}
            seen={seen}
            says={drafts[kind] ? finding : undefined}
            fault={(field) =>
              (drafts[kind] ? foreseen.faultOf(kind, field) : undefined) ??
              entry?.refused?.problem?.errors.find((fault) => fault.path === field)?.message
            }
            onType={(typed) => bench.type(kind, typed)}
            onStands={(read) => bench.stands(kind, read)}
            job={bench.opened?.kind === kind ? bench.opened.job : undefined}
            onKeep={(body) => bench.leave(kind, body)}
          />
        </Drafting.Provider>
        {(papers[kind].isThere || corrected || mayCorrect) && (
          <Beside>
            {mayCorrect && (
              // such as: it had rested for a day, said without its volts being typed again
              <Button onPress={() => bench.open(kind, "correct")}>{t("bench.correct_what_was_kept")}</Button>
            )}
            {corrected && entry && !entry.refused && (
              <>
                <Button onPress={() => bench.open(kind, "again")}>{t("bench.read_it_again_instead")}</Button>
                <Button
                  $tone="copper"
                  onPress={() => bench.withdraw(entry)}
                  isDisabled={hasHazard(entry.reading, bench.hazards)}
                >
                  {t("bench.undo_take_this_reading_back")}
                </Button>
              </>
            )}
            {papers[kind].isThere && (
              <Button onPress={() => bench.throwAway(kind)}>{t("screens.throw_away_what_is_typed")}</Button>
            )}
          </Beside>
        )}
        {known?.cautions[kind]?.map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
      </OpenRung>
    );
  }

  const quietOnes = RUNGS.filter(({ kind }) => !isOpen(kind) && (!latest(kind) || latest(kind)?.refused));
  return (
    <Columns>
      <h1 className="quiet">
        {t("bench.check_of", { tag: view.tag, line: view.battery.line || t("screens.no_line") })}
      </h1>
      <Brief aria-hidden>
        <InlineMark outcome={foreseen.judgement.outcome} size={20} />
        <b style={{ color: toneOf(foreseen.judgement.outcome).ink }}>{foreseen.judgement.headline}</b>
      </Brief>
      <Rungs aria-label={t("bench.rungs")}>
        {RUNGS.map((rung) => {
          const { kind, letter, title } = rung;
          if (isOpen(kind)) return drawOpen(rung);
          const entry = latest(kind);
          if (!entry || entry.refused) return null;
          return (
            <DoneRung
              key={kind}
              letter={letter}
              title={title}
              standing={entry}
              summary={summaryOf(entry.reading, view.battery, who.store, findingOf(kind))}
              finding={findingOf(kind)}
              onOpen={() => openRef.current(kind, "correct")}
            />
          );
        })}
        {bench.isUnsafe && <Closed despite={bench.despite} onDespite={bench.setDespite} />}
        <QuietOnes>
          {quietOnes.map(({ kind, letter, title }) => (
            <QuietRung
              key={kind}
              letter={letter}
              title={title}
              half={papers[kind].isThere}
              closed={bench.isClosed(kind)}
              onOpen={() => openRef.current(kind, "open")}
            />
          ))}
        </QuietOnes>
        <UndoLine
          view={view}
          last={bench.last}
          store={who.store}
          says={foreseen.judgement.findings.find((found) => found.reading_id === bench.last?.reading.id)}
          needsReason={bench.last ? hasHazard(bench.last.reading, bench.hazards) : false}
          onUndo={bench.withdraw}
          onCorrect={(kind) => openRef.current(kind, "correct")}
        />
      </Rungs>
      <VerdictPanel
        judgement={foreseen.judgement}
        check={foreseen.check}
        store={who.store}
        view={view}
        saidByRung={saidByRung}
        onJob={bench.proveJob}
        onNext={due !== null && !saidByRung ? () => openRef.current(due, "open") : null}
      />
      <CaseColumn view={view} size={size} judgement={foreseen.judgement} who={who} marks={marks} cells={cells} />
    </Columns>
  );
}

/** A look that found something that stops everything. */
const hasHazard = (reading: { kind?: string }, hazards: ReadonlySet<string>) =>
  reading.kind === "look" && ((reading as Schema["Look"]).marks ?? []).some((mark) => hazards.has(mark.sign));

/** Why the server did not keep a reading, and what can be done: mend it below, stand by its time, throw it away. */
function Refused({ entry }: { entry: Waiting }) {
  return (
    <div>
      <Fault role="alert">{t("screens.not_kept", { entry: reasonOf(entry) })}</Fault>
      <Beside>
        {asksForTime(entry) && <Button onPress={() => standByTime(entry)}>{t("screens.it_was_taken_then")}</Button>}
        <Button onPress={() => discard(entry.id)}>{t("screens.throw_it_away")}</Button>
      </Beside>
    </div>
  );
}
