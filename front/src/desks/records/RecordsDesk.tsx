/** Records: past checks to search, and one battery's life with every correction. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { api, asked, named, type Reading, type Schema } from "../../api/client";
import { checks, learned, life } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Empty, Entry, Page, Soft, touchLink } from "../../kit/parts";
import { CAME_IN, CHEMISTRIES, COMPLAINTS, dayOf, OUTCOMES, PLACES, timeOf } from "../../kit/words";
import { InlineMark } from "../../vane/outcomes";
import { useSettled } from "../check/drafts";
import { summaryOf } from "../check/rungs";

const Columns = styled(Page)`
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
`;
const Column = styled.section`
  min-height: 0;
  padding: 14px 20px;
  overflow: auto;
  display: grid;
  align-content: start;
  gap: 10px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 22px;
  }
  h2 {
    font-size: 16px;
    color: var(--soft);
    font-weight: 500;
    margin-top: 6px;
  }
`;
const Row = styled(Link)`
  display: grid;
  grid-template-columns: 52px 100px 128px 1fr 136px;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
  text-decoration: none;
  color: inherit;
  cursor: pointer;
  font-size: 15px;
  line-height: 1.2;
  b {
    font-size: 19px;
    font-weight: 780;
  }
  &[data-current="true"] {
    background: var(--shelf);
    box-shadow: inset 4px 0 0 var(--copper);
  }
  &[data-hovered] {
    background: var(--shelf);
  }
`;
const Outcome = styled.span`
  display: inline-flex;
  gap: 7px;
  align-items: center;
  font-weight: 600;
`;
const Paging = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
`;
const Event = styled.li`
  display: grid;
  grid-template-columns: 104px 1fr;
  gap: 12px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
  font-size: 15px;
  line-height: 1.3;
  s {
    color: var(--soft);
  }
`;
const Act = styled(Link)`
  ${touchLink}
  margin-right: 16px;
`;

export function RecordsDesk({ tag, who }: { tag: number | null; who: Schema["Me"] }) {
  const [text, setText] = useState("");
  const [page, setPage] = useState(0);
  const { data: found } = useQuery(checks(useSettled(text, 200), page));
  return (
    <Columns>
      <Column aria-label="Past checks">
        <Entry
          label="Search by tag, line, serial, name, phone, plate or car"
          value={text}
          onChange={(typed) => {
            setText(typed);
            setPage(0);
          }}
          numeric={false}
        />
        {found && found.found > 0 && (
          <Paging aria-label="Pages">
            <span role="status">
              {found.more ? "more than " : ""}
              {found.found} {found.found === 1 ? "check" : "checks"}
              {found.pages > 1 && `, page ${found.page + 1} of ${found.pages}`}
            </span>
            {found.page > 0 && <Button onPress={() => setPage(found.page - 1)}>Newer</Button>}
            {found.page + 1 < found.pages && <Button onPress={() => setPage(found.page + 1)}>Older</Button>}
          </Paging>
        )}
        <div>
          {found?.checks.map((one) => (
            <Row key={`${one.tag}-${one.opened_at}`} href={`/records/${one.tag}`} data-current={one.tag === tag}>
              <b>{one.tag}</b>
              <span>{dayOf(one.opened_at)}</span>
              <span>{one.battery.line || "no line"}</span>
              <Soft>
                {one.figures.filter((figure) => figure !== "nothing wrong seen").join(" · ") ||
                  COMPLAINTS[one.complaint]}
              </Soft>
              {one.outcome ? (
                <Outcome>
                  <InlineMark outcome={one.outcome} /> {OUTCOMES[one.outcome]}
                </Outcome>
              ) : (
                <Soft>not read yet</Soft>
              )}
            </Row>
          ))}
          {found?.found === 0 && <p>No check matches “{text}”: try part of the line, or the tag.</p>}
        </div>
      </Column>
      <Column aria-label="Life">
        {tag === null ? (
          <Empty>
            <h2>Pick a check</h2>
            <p>Its whole life stands here, corrections included.</p>
          </Empty>
        ) : (
          <OneLife tag={tag} who={who} />
        )}
      </Column>
    </Columns>
  );
}

function OneLife({ tag, who }: { tag: number; who: Schema["Me"] }) {
  const { store } = who;
  const { data: found, error } = useQuery(life(tag));
  if (error && !found)
    return (
      <Empty>
        <h2>{error.message}</h2>
      </Empty>
    );
  if (!found) return null;
  const { check } = found;
  const events = [
    ...found.take_ins.map((entry, index) => ({
      at: entry.written_at,
      who: entry.who,
      what: (
        <>
          {index === 0 ? "Taken in" : "Label corrected"}:{" "}
          {CAME_IN[entry.take_in.context.came_in ?? "carried_in"].toLowerCase()},{" "}
          {entry.take_in.battery?.line || "no line"}, {CHEMISTRIES[entry.take_in.battery?.chemistry ?? "flooded"]},{" "}
          {entry.take_in.battery?.rating
            ? `${entry.take_in.battery.rating.amps} ${entry.take_in.battery.rating.scale}`
            : "no rating"}
          {entry.take_in.battery?.group_code ? `, group ${entry.take_in.battery.group_code}` : ""}
        </>
      ),
    })),
    ...check.readings.map((kept) => ({
      at: kept.reading.taken_at,
      who: kept.who,
      what: kept.corrected ? (
        <s>{summaryOf(kept.reading as Reading, check.battery, store)} corrected later</s>
      ) : (
        <>
          {summaryOf(kept.reading as Reading, check.battery, store)}
          {kept.reading.replaces ? <Soft> (a correction)</Soft> : null}
        </>
      ),
    })),
    ...found.stays.map((stay) => ({ at: stay.moved_at, who: stay.who, what: <>Put: {PLACES[stay.place]}</> })),
  ].sort((one, other) => one.at.localeCompare(other.at));
  return (
    <>
      <h1>
        {tag} · {check.battery.line || "no line"}
      </h1>
      <Outcome>
        <InlineMark outcome={check.judgement.outcome} /> {check.judgement.headline}, {check.judgement.sureness} (house
        rules {check.judgement.rules_version})
      </Outcome>
      <div>
        <Act href={`/check/${tag}`}>Open its check</Act>
        <Act href={`/api/batteries/${tag}/slip.pdf`} target="_blank">
          Slip
        </Act>
        <Act href={`/api/batteries/${tag}/check-file`} target="_blank">
          Check file
        </Act>
      </div>
      {who.role === "lead" && <Erase view={check} />}
      <ol>
        {events.map((event, index) => (
          <Event key={index}>
            <Soft>
              {dayOf(event.at)} {timeOf(event.at)}
              <br />
              {event.who}
            </Soft>
            <span>{event.what}</span>
          </Event>
        ))}
      </ol>
    </>
  );
}

/** Take name, phone and plate away, everywhere: asked twice, for nothing brings them back. */
function Erase({ view }: { view: Schema["CheckView"] }) {
  const [sure, setSure] = useState(false);
  const [writeId] = useState(newId);
  const erase = useMutation({
    mutationFn: () =>
      asked(
        api.POST("/api/batteries/{tag}/erase-customer", {
          params: { path: { tag: view.tag }, ...named(writeId) },
          body: {},
        }),
      ),
    onSuccess: learned,
  });
  const name = [view.customer_name, view.customer_phone, view.customer_plate].filter(Boolean).join(", ");
  if (view.customer_erased) return <Soft>Its customer was erased; what was measured stays.</Soft>;
  if (!name) return null;
  if (!sure) return <Button onPress={() => setSure(true)}>Erase {name}</Button>;
  return (
    <div>
      <p>
        Name, phone and plate go from this and every other battery of {name}. Nothing brings them back; what was
        measured stays, and that it was done is on record.
      </p>
      <Paging>
        <Button $tone="copper" isDisabled={erase.isPending} onPress={() => erase.mutate()}>
          Erase for good
        </Button>
        <Button onPress={() => setSure(false)}>Leave it</Button>
      </Paging>
      {erase.error && <p role="alert">{erase.error.message}</p>}
    </div>
  );
}
