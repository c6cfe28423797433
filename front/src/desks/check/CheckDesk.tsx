/** The Check desk: the case, the rungs in the order of work, the judgement. The vane moves as one types. */
import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import type { Reading, Schema } from "../../api/client";
import { battery, reference, shelf } from "../../api/queries";
import { CasePicture, cellFigures, type CellShown } from "../../case/CasePicture";
import { keep, takeBack } from "../../kit/outbox";
import { Button, Caution, Empty, Page } from "../../kit/parts";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, dayOf, USES } from "../../kit/words";
import { useForeseen, useStanding, type Draft, type Standing } from "./drafts";
import { DUE, RUNGS, summaryOf, type Kind } from "./rungs";
import { Rung } from "./Rung";
import { VerdictPanel } from "./VerdictPanel";

const Columns = styled(Page)`
  grid-template-columns: 244px minmax(0, 1fr) 436px;
`;
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
    color: var(--copper);
    font-weight: 650;
    min-height: 44px;
    display: inline-flex;
    align-items: center;
  }
`;
const Rungs = styled.section`
  padding: 12px 16px;
  overflow: auto;
  display: grid;
  align-content: start;
  gap: 4px;
`;

export function CheckDesk({ tag, who }: { tag: number | null; who: Schema["Me"] }) {
  const { data: shelved } = useQuery(shelf);
  const first = shelved?.[0]?.tag;
  if (tag === null)
    return (
      <Page>
        <Empty>
          <h1>Which battery?</h1>
          <p>Type its tag number and Enter, or touch it on the shelf.</p>
          {first === undefined && <p>None is in the house yet: take one in at the Counter.</p>}
        </Empty>
      </Page>
    );
  return <OneCheck tag={tag} who={who} />;
}

function OneCheck({ tag, who }: { tag: number; who: Schema["Me"] }) {
  const { data: view, error } = useQuery(battery(tag));
  const { isPending: cautionsToCome } = useQuery(reference);
  // What is shown and typed stays while the server is away.
  if (error && !view)
    return (
      <Page>
        <Empty>
          <h2>{error.message}</h2>
          <p>Look at the tag again, or search its line or serial in Records.</p>
        </Empty>
      </Page>
    );
  return view && !cautionsToCome ? <Bench view={view} who={who} /> : <Page />;
}

interface Opened {
  kind: Kind;
  /** The entry that is corrected, or null for a new reading. */
  corrects: Standing | null;
  /** A new form for every opening. */
  turn: number;
}

function Bench({ view, who }: { view: Schema["CheckView"]; who: Schema["Me"] }) {
  const standing = useStanding(view);
  const [drafts, setDrafts] = useState<Record<string, Draft>>({});
  const [opened, setOpened] = useState<Opened | null>(null);
  const names = useRef<Record<string, { id: string; taken_at: string }>>({});
  const foreseen = useForeseen(view, standing, drafts);
  const { data: known } = useQuery(reference);
  const latest = (kind: Kind) => standing.findLast((entry) => entry.reading.kind === kind);
  const due = DUE[view.judgement.next_step.key];
  const isOpen = (kind: Kind) =>
    latest(kind)?.refused ? true : opened ? opened.kind === kind : kind === due && !awaits(standing, kind);

  /** A typed reading keeps its name and time from the first key to the last. */
  function whole(kind: Kind, body: object): Reading {
    const named = (names.current[kind] ??= { id: crypto.randomUUID(), taken_at: new Date().toISOString() });
    const corrects = opened?.kind === kind ? opened.corrects : null;
    const at = corrects ? { ...named, taken_at: corrects.reading.taken_at, replaces: corrects.reading.id } : named;
    return { kind, ...body, ...at } as Reading;
  }

  function type(kind: Kind, body: object | null) {
    setDrafts((before) => {
      if (!body && !before[kind]) return before;
      const others = without(before, kind);
      return body ? { ...others, [kind]: { reading: whole(kind, body) } } : others;
    });
  }

  function leave(kind: Kind, body?: object) {
    const reading = body ? whole(kind, body) : drafts[kind]?.reading;
    const unchanged = opened?.corrects && reading && sameBody(opened.corrects.reading, reading);
    const refused = latest(kind)?.refused ? latest(kind) : undefined;
    if (refused && reading && !unchanged) takeBack(refused.reading.id ?? "");
    if (reading && !unchanged) keep(view.tag, reading);
    names.current = without(names.current, kind);
    setDrafts((before) => without(before, kind));
    setOpened((now) => (now?.kind === kind ? null : now)); // another may have been opened in the meantime
  }

  function withdraw(entry: Standing) {
    const id = crypto.randomUUID();
    keep(view.tag, {
      kind: "withdrawal",
      id,
      taken_at: new Date().toISOString(),
      replaces: entry.reading.id ?? "",
    } as Reading);
    setDrafts({});
    setOpened(null);
  }

  function open(kind: Kind, how: "again" | "correct" | "open" | "close") {
    names.current = without(names.current, kind);
    type(kind, null);
    if (how === "close") return setOpened(null);
    const now = latest(kind);
    if (now?.refused) takeBack(now.reading.id ?? "");
    setOpened({ kind, corrects: how === "correct" && now && !now.refused ? now : null, turn: (opened?.turn ?? 0) + 1 });
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

  const seen = (drafts["look"]?.reading ?? latest("look")?.reading) as Schema["Look"] | undefined;
  const marks = seen?.marks ?? NO_MARKS;
  const gravities = (drafts["cells"]?.reading ?? latest("cells")?.reading) as Schema["Cells"] | undefined;
  const cells = useMemo(() => cellFigures(gravities, view.limits), [gravities, view.limits]);
  const lookDone = latest("look") !== undefined;
  return (
    <Columns>
      <CaseColumn view={view} judgement={foreseen.judgement} who={who} marks={marks} cells={cells} />
      <Rungs aria-label="Rungs">
        {RUNGS.map(({ kind, letter, title, quiet, Form }) => {
          const entry = latest(kind);
          const start = entry?.refused
            ? entry.reading
            : opened?.kind === kind
              ? (opened.corrects?.reading ?? null)
              : null;
          return (
            <Rung
              key={kind}
              letter={letter}
              title={title}
              quiet={quiet}
              open={isOpen(kind)}
              onOpen={(how) => openRef.current(kind, how)}
              onLeave={() => leaveRef.current(kind)}
              {...(kind === "look" && !lookDone
                ? { quick: ["Nothing wrong", () => leaveRef.current("look", { marks: [] })] as const }
                : {})}
              standing={entry}
              summary={entry && summaryOf(entry.reading, view.battery, who.store)}
              finding={entry && foreseen.judgement.findings.find((found) => found.reading_id === entry.reading.id)}
            >
              <Form
                key={`${kind}-${opened?.turn ?? 0}-${standing.length}`}
                start={start}
                limits={view.limits}
                size={view.size}
                battery={view.battery}
                store={who.store}
                fault={(field) =>
                  (drafts[kind] ? foreseen.faultOf(kind, field) : undefined) ??
                  entry?.refused?.errors.find((fault) => fault.path === field)?.message
                }
                onType={(body) => type(kind, body)}
                onKeep={(body) => leave(kind, body)}
              />
              {opened?.kind === kind && opened.corrects && <TakeBack entry={opened.corrects} onTakeBack={withdraw} />}
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
    <div>
      <Button $tone="copper" onPress={() => onTakeBack(entry)}>
        Undo: take this reading back
      </Button>
    </div>
  );
}

const NO_MARKS: Schema["Mark"][] = [];

interface ColumnProps {
  view: Schema["CheckView"];
  judgement: Schema["Judgement"];
  who: Schema["Me"];
  marks: Schema["Mark"][];
  cells: CellShown[];
}

const CaseColumn = memo(function CaseColumn({ view, judgement, who, marks, cells }: ColumnProps) {
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
    ["for", [view.customer_name, view.customer_phone].filter(Boolean).join(", ")],
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
