/** One check: the case, the rungs in the order of work, the judgement. What is typed lives until it is kept or thrown away. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Reading, Schema } from "../../api/client";
import { reference } from "../../api/queries";
import { cellFigures } from "../../case/CasePicture";
import { newId, nowIso } from "../../kit/clock";
import { DraftAt, Drafting, draftsUnder } from "../../kit/drafts";
import { discard, keep, standByTime, type Waiting } from "../../kit/outbox";
import { Button, Caution, Page } from "../../kit/parts";
import { fieldStands } from "../../kit/typeAhead";
import { asksForTime, reasonOf } from "../../kit/WaitingSheet";
import { CaseColumn } from "./CaseColumn";
import { useForeseen, useStanding, type Draft, type Standing } from "./drafts";
import { DUE, likelyNext, RUNGS, summaryOf, type Kind } from "./rungs";
import { Rung } from "./Rung";
import type { Said } from "./spec";
import { VerdictPanel } from "./VerdictPanel";

const Columns = styled(Page)`
  grid-template-columns: 244px minmax(0, 1fr) 436px;
`;
const Beside = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
`;
const Rungs = styled.section`
  padding: 12px 16px;
  overflow: auto;
  display: grid;
  align-content: start;
  gap: 4px;
`;

const NO_MARKS: Schema["Mark"][] = [];

interface Opened {
  kind: Kind;
  /** A new form for every opening. */
  turn: number;
}

/** What a draft of a reading is called from its first key to its last, and what it corrects. */
interface Named {
  id: string;
  taken_at: string;
  replaces?: string;
}

export function Bench({ view, who }: { view: Schema["CheckView"]; who: Schema["Me"] }) {
  const standing = useStanding(view);
  const place = `check/${view.tag}/`;
  const [drafts, setDrafts] = useState<Record<string, Draft>>({});
  const [opened, setOpened] = useState<Opened | null>(() => {
    const kind = draftsUnder(place).find((one) => RUNGS.some((rung) => rung.kind === one));
    return kind ? { kind: kind as Kind, turn: 0 } : null;
  });
  const papers = useMemo(
    () => Object.fromEntries(RUNGS.map(({ kind }) => [kind, new DraftAt(place + kind)])) as Record<Kind, DraftAt>,
    [place],
  );
  const foreseen = useForeseen(view, standing, drafts);
  const { data: known } = useQuery(reference);
  useEffect(fieldStands, []);
  const latest = (kind: Kind) => standing.findLast((entry) => entry.reading.kind === kind);
  const due = DUE[view.judgement.next_step.key];
  const isOpen = (kind: Kind) =>
    latest(kind)?.refused ? true : opened ? opened.kind === kind : kind === due && !awaits(standing, kind);

  /** A typed reading keeps its name and time from the first key to the last, on whatever day that is. */
  function whole(kind: Kind, body: object): Reading {
    const paper = papers[kind];
    const named = paper.get<Named>(NAME) ?? namedAfter(latest(kind)?.refused);
    if (!paper.get(NAME)) paper.set(NAME, named);
    return { kind, ...body, ...named } as Reading;
  }

  function type(kind: Kind, body: object | null) {
    const reading = body && whole(kind, body); // now, not when the state is worked out: by then it may have been kept
    setDrafts((before) => {
      if (!reading && !before[kind]) return before;
      const others = without(before, kind);
      return reading ? { ...others, [kind]: { reading } } : others;
    });
  }

  /** Keep what is typed whole; what is half typed stays as it is, for whoever comes back to it. */
  function leave(kind: Kind, body?: object) {
    if (drafts[kind] && foreseen.isWrong(kind)) {
      // it would be refused: the fault stands in its field, and what is typed waits there to be mended
      if (!body) setOpened((now) => (now?.kind === kind ? null : now));
      return;
    }
    const reading = body ? whole(kind, body) : drafts[kind]?.reading;
    const corrected = standing.find((entry) => entry.reading.id === reading?.replaces && !entry.refused);
    const unchanged = corrected && reading && sameBody(corrected.reading, reading);
    const refused = latest(kind)?.refused;
    if (reading && refused && !unchanged) discard(refused.id);
    if (reading && !unchanged) keep(view.tag, reading);
    if (reading) {
      papers[kind].clear();
      setDrafts((before) => without(before, kind));
    }
    const next = reading && !unchanged && kind === (opened?.kind ?? due) ? nextRung(kind, reading) : null;
    setOpened((now) => {
      if (next) return { kind: next, turn: (now?.turn ?? 0) + 1 };
      return now?.kind === kind ? null : now; // another may have been opened in the meantime
    });
  }

  /** Which rung takes the next keys: as foreseen for just this reading, else the next in the order of work. */
  function nextRung(kind: Kind, reading: Reading): Kind | null {
    if (!foreseen.asking && drafts[kind]?.reading?.id === reading.id) return DUE[foreseen.judgement.next_step.key];
    const deciding = (known?.rules["deciding_kinds"]?.value ?? []) as Kind[];
    return likelyNext(reading, view, deciding, (other) => other === kind || latest(other) !== undefined);
  }

  function withdraw(entry: Standing) {
    keep(view.tag, {
      kind: "withdrawal",
      id: newId(),
      taken_at: nowIso(),
      replaces: entry.reading.id ?? "",
    } as Reading);
    throwAway(entry.reading.kind ?? "look");
  }

  function throwAway(kind: Kind) {
    papers[kind].clear();
    setDrafts((before) => without(before, kind));
    setOpened(null);
  }

  function open(kind: Kind, how: "again" | "correct" | "open" | "close") {
    if (how === "close") return leave(kind);
    const paper = papers[kind];
    const now = latest(kind);
    if (!paper.isThere && how === "correct" && now && !now.refused)
      paper.set(NAME, { id: newId(), taken_at: now.reading.taken_at, replaces: now.reading.id ?? "" });
    setOpened({ kind, turn: (opened?.turn ?? 0) + 1 });
  }

  const openRef = useRef(open);
  const leaveRef = useRef(leave);
  useEffect(() => {
    openRef.current = open;
    leaveRef.current = leave;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const field = event.target instanceof HTMLInputElement ? event.target : null;
      if (field && field.inputMode !== "decimal" && field.type !== "radio") return;
      const rung = RUNGS.find((one) => one.letter.toLowerCase() === event.key.toLowerCase());
      if (!rung) return;
      event.preventDefault();
      field?.blur(); // leaving keeps what was typed; a figure holds no letters, so a letter is always a jump
      openRef.current(rung.kind, "open");
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);

  const said = (kind: Kind): Said | undefined => {
    const id = drafts[kind]?.reading?.id ?? latest(kind)?.reading.id;
    return foreseen.judgement.findings.find((found) => found.reading_id === id);
  };
  const seen = (drafts["look"]?.reading ?? latest("look")?.reading) as Schema["Look"] | undefined;
  const marks = seen?.marks ?? NO_MARKS;
  const gravities = (drafts["cells"]?.reading ?? latest("cells")?.reading) as Schema["Cells"] | undefined;
  const ofCells = said("cells");
  const cells = useMemo(() => cellFigures(gravities, ofCells), [gravities, ofCells]);
  const lookDone = latest("look") !== undefined;
  return (
    <Columns>
      <CaseColumn view={view} judgement={foreseen.judgement} who={who} marks={marks} cells={cells} />
      <Rungs aria-label="Rungs">
        {RUNGS.map(({ kind, letter, title, quiet, Form }) => {
          const entry = latest(kind);
          const corrects = papers[kind].get<Named>(NAME)?.replaces;
          const start = entry?.refused?.reading ?? standing.find((one) => one.reading.id === corrects)?.reading ?? null;
          const found = said(kind);
          return (
            <Rung
              key={kind}
              letter={letter}
              title={title}
              quiet={papers[kind].isThere && !isOpen(kind) ? "half typed: open it and go on" : quiet}
              open={isOpen(kind)}
              onOpen={(how) => openRef.current(kind, how)}
              onLeave={() => leaveRef.current(kind)}
              {...(kind === "look" && !lookDone
                ? { quick: ["Nothing wrong", () => leaveRef.current("look", { marks: [] })] as const }
                : {})}
              standing={entry}
              summary={entry && summaryOf(entry.reading, view.battery, who.store)}
              finding={entry && found}
            >
              {entry?.refused && <Refused entry={entry.refused} />}
              <Drafting.Provider value={papers[kind]}>
                <Form
                  key={`${opened?.kind === kind ? opened.turn : 0}-${entry?.refused?.id ?? ""}`}
                  start={start}
                  limits={view.limits}
                  size={view.size}
                  battery={view.battery}
                  store={who.store}
                  says={drafts[kind] ? found : undefined}
                  fault={(field) =>
                    (drafts[kind] ? foreseen.faultOf(kind, field) : undefined) ??
                    entry?.refused?.problem?.errors.find((fault) => fault.path === field)?.message
                  }
                  onType={(body) => type(kind, body)}
                  onKeep={(body) => leave(kind, body)}
                />
              </Drafting.Provider>
              {(papers[kind].isThere || (corrects && entry)) && (
                <Beside>
                  {papers[kind].isThere && <Button onPress={() => throwAway(kind)}>Throw away what is typed</Button>}
                  {corrects && entry && !entry.refused && <TakeBack entry={entry} onTakeBack={withdraw} />}
                </Beside>
              )}
              {known?.cautions[kind]?.map((text) => (
                <Caution key={text}>{text}</Caution>
              ))}
            </Rung>
          );
        })}
      </Rungs>
      <VerdictPanel judgement={foreseen.judgement} store={who.store} view={view} />
    </Columns>
  );
}

const NAME = "named";

/** A new name; what mends a refused entry keeps its time and what it corrects: it never becomes a reading of its own. */
function namedAfter(refused: Waiting | undefined): Named {
  const of = refused?.reading;
  const keepsTime = of && !refused.problem?.errors.some((fault) => fault.path === "taken_at");
  return {
    id: newId(),
    taken_at: keepsTime ? of.taken_at : nowIso(),
    ...(of?.replaces ? { replaces: of.replaces } : {}),
  };
}

const awaits = (standing: Standing[], kind: Kind) =>
  standing.some((entry) => entry.reading.kind === kind && entry.keptAt === null && !entry.refused);

function without<Value>(record: Record<string, Value>, key: string): Record<string, Value> {
  return Object.fromEntries(Object.entries(record).filter(([name]) => name !== key));
}

function sameBody(one: Reading, other: Reading): boolean {
  const plain = (reading: Reading) => {
    const { id, taken_at, taken_by, replaces, ...body } = reading;
    void [id, taken_at, taken_by, replaces];
    return JSON.stringify(
      Object.entries(body)
        .filter(([, value]) => value !== null && value !== "")
        .sort(),
    );
  };
  return plain(one) === plain(other);
}

function TakeBack({ entry, onTakeBack }: { entry: Standing; onTakeBack: (entry: Standing) => void }) {
  return (
    <Button $tone="copper" onPress={() => onTakeBack(entry)}>
      Undo: take this reading back
    </Button>
  );
}

/** Why the server did not keep a reading, and what can be done: mend it below, stand by its time, throw it away. */
function Refused({ entry }: { entry: Waiting }) {
  return (
    <div>
      <p role="alert" style={{ color: "var(--failed)", fontWeight: 650 }}>
        Not kept: {reasonOf(entry)}
      </p>
      <Beside>
        {asksForTime(entry) && <Button onPress={() => standByTime(entry)}>It was taken then</Button>}
        <Button onPress={() => discard(entry.id)}>Throw it away</Button>
      </Beside>
    </div>
  );
}
