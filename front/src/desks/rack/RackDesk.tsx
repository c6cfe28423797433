/** The charge rack: left what needs a hand, in words and in order; right the boards, with the batteries where they are due. */
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-aria-components";
import styled from "styled-components";
import { rack as rackQuery, reference, shelf } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { nowMs } from "../../kit/clock";
import { useLetters } from "../../kit/letters";
import { Button, Caution, Empty, Page, touchLink } from "../../kit/parts";
import { NARROW, UPRIGHT } from "../../kit/theme";
import { clockWords } from "../../kit/words";
import { Boards } from "./Boards";
import { Card, Fault, Sheet } from "./Card";
import { Chosen } from "./Chosen";
import { useWork, type Rack } from "./work";
import { t } from "../../language/t";

const Columns = styled(Page)`
  grid-template-columns: 290px minmax(0, 1fr);
  ${NARROW} {
    grid-template-columns: 270px minmax(0, 1fr);
  }
  ${UPRIGHT} {
    display: block;
    overflow: auto;
  }
`;
const Words = styled.section`
  position: relative;
  overflow: auto;
  min-height: 0;
  padding: 10px 6px 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  h1 {
    font-size: 22px;
  }
  & > p {
    font-size: 16px;
    line-height: 1.3;
    color: var(--soft);
  }
  ${UPRIGHT} {
    overflow: visible;
    padding: 10px 14px;
  }
`;
const Promise_ = styled(Sheet)`
  border: 2px dashed var(--doubt);
`;
const ToBook = styled(Link)`
  ${touchLink}
`;
const Tags = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
`;
const Folded = styled.details`
  font-size: 16px;
  line-height: 1.3;
  color: var(--soft);
  summary {
    min-height: 44px;
    display: flex;
    align-items: center;
    cursor: pointer;
  }
  li {
    padding: 3px 0;
  }
`;

export function RackDesk({ tag }: { tag: number | null }) {
  const { data: found, error } = useQuery(rackQuery);
  const { data: onShelf } = useQuery(shelf);
  const { data: known } = useQuery(reference);
  const [chosen, setChosen] = useState<number | null>(tag);
  const { work, said } = useWork();
  useLetters({ n: () => document.querySelector<HTMLElement>("[data-next]")?.focus() });
  if (!found)
    return error ? <Page><Empty><h2>{error.message}</h2></Empty></Page> : <Outline />; // prettier-ignore
  if (found.chargers.length === 0)
    return (
      <Page>
        <Empty>
          <h1>{t("rack_desk.no_charger_stands_in_the_book_yet")}</h1>
          <p>{t("rack_desk.write_in_what_the_shop_charges_with_and")}</p>
          <ToBook href="/equipment">{t("rack_desk.open_the_book_of_equipment")}</ToBook>
        </Empty>
      </Page>
    );
  const choose = (tag: number) => setChosen((now) => (now === tag ? null : tag));
  return (
    <Columns>
      <Words aria-label={t("rack_desk.at_hand")}>
        <h1>{t("rack_desk.at_hand")}</h1>
        {said && <Fault>{said}</Fault>}
        {chosen !== null && (
          <Chosen
            key={chosen}
            tag={chosen}
            rack={found}
            shown={onShelf?.find(({ tag }) => tag === chosen)}
            onClose={() => setChosen(null)}
          />
        )}
        {found.hands
          .filter(({ tag, does }) => tag !== chosen || does === "test" || does === "read")
          .map((hand) => (
            <Card key={`${hand.does}-${hand.tag}`} hand={hand} onChoose={choose} />
          ))}
        {found.hands.length === 0 && chosen === null && (
          <p>{t("rack_desk.nothing_needs_a_hand_in_the_next_half_hour")}</p>
        )}
        <Few all={found.broken} more={(count) => t("rack_desk.more_promises_that_cannot_be_kept", { count })}>
          {(one) => <Broken key={one.tag} one={one} rack={found} />}
        </Few>
        {found.outside.map((one) => (
          <NoPlace key={one.why} one={one} />
        ))}
        {known?.cautions["charge_run"]?.slice(0, 1).map((text) => (
          <Caution key={text}>{text}</Caution>
        ))}
        {found.night && <p>{found.night}.</p>}
        <Changes rack={found} />
        <ToBook href="/equipment">{t("rack_desk.book_of_equipment_opening_hours")}</ToBook>
      </Words>
      <Boards rack={found} onShelf={onShelf ?? []} chosen={chosen} onChoose={choose} onWork={work} />
    </Columns>
  );
}

/** So many stand open; the rest is one line that opens. */
const OPEN_AT_MOST = 3;

function Few<One>({
  all,
  more,
  children,
}: {
  all: One[];
  more: (count: number) => string;
  children: (one: One) => ReactNode;
}) {
  const rest = all.slice(OPEN_AT_MOST);
  return (
    <>
      {all.slice(0, OPEN_AT_MOST).map(children)}
      {rest.length > 0 && (
        <Folded>
          <summary>{more(rest.length)}</summary>
          {rest.map(children)}
        </Folded>
      )}
    </>
  );
}

/** Batteries that are not planned, or not as it was asked: what stands in the way, and what comes first. */
function NoPlace({ one }: { one: Rack["outside"][number] }) {
  const several = one.tags.length > 1;
  return (
    <Sheet $tone="line" aria-label={t("rack_desk.no_place")}>
      <h2>{several ? t("screens.batteries_2", { count: one.tags.length }) : one.tags[0]}</h2>
      <p>
        {one.why}. {one.first}.
      </p>
      <Tags>
        {one.tags.map((tag) => (
          <ToBook key={tag} href={`/check/${tag}`}>
            {tag}
          </ToBook>
        ))}
      </Tags>
    </Sheet>
  );
}

const ROUND_MS = 5 * 60_000;

/** A promise that cannot be kept, and the earliest that can. */
function Broken({ one, rack }: { one: Rack["broken"][number]; rack: Rack }) {
  const { work, busy, said } = useWork();
  const now = new Date(nowMs());
  const slot = rack.slots.find(({ tag }) => tag === one.tag);
  const ready = one.ready_at && new Date(Math.ceil(Date.parse(one.ready_at) / ROUND_MS) * ROUND_MS).toISOString();
  const priority = slot?.priority === "waiting" ? "waiting" : "promised";
  return (
    <Promise_ $tone="line" aria-label={t("rack_desk.promise_of", { tag: one.tag })}>
      <h2>{t("rack_desk.promised_for", { tag: one.tag, promised_at: clockWords(one.promised_at, now) })}</h2>
      <p>{one.words}</p>
      {said && <Fault>{said}</Fault>}
      {ready && (
        <Button
          type="button"
          $tone="copper"
          isDisabled={busy}
          onPress={() => work({ does: "promise", tag: one.tag, promised_at: ready, priority })}
        >
          {t("rack_desk.promise_instead", { ready: clockWords(ready, now) })}
        </Button>
      )}
    </Promise_>
  );
}

/** What the last change did to the plan, and why. */
function Changes({ rack }: { rack: Rack }) {
  if (!rack.changed_at) return null;
  const when = clockWords(rack.changed_at, new Date(nowMs()));
  const why = `${rack.changed_why}, ${when}, ${rack.changed_by}`;
  if (rack.changes.length === 0) return <p>{t("rack_desk.last_the_plan_stayed", { why })}</p>;
  return (
    <Folded open={rack.changes.length < 3}>
      <summary>{t("rack_desk.plan_changed_for", { count: rack.changes.length, why })}</summary>
      <ul>
        {rack.changes.map((one) => (
          <li key={one.tag}>
            <b>{one.tag}</b> {one.words}
          </li>
        ))}
      </ul>
    </Folded>
  );
}
