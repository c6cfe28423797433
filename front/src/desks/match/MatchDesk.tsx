/** Match: what is asked for on the left, what the house has in the middle, old and new over one another on the right. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton, Link } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { battery, matchFor, matchRequirement, reference } from "../../api/queries";
import { Button, Caution, Empty, Page, Soft } from "../../kit/parts";
import { NARROW, UPRIGHT } from "../../kit/theme";
import { money } from "../../kit/words";
import { Asked } from "./Asked";
import { Overlay } from "./Overlay";

const Columns = styled(Page)`
  grid-template-columns: 300px minmax(0, 1fr) 320px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    overflow: auto;
    align-content: start;
  }
  ${UPRIGHT} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Column = styled.section`
  padding: 14px 18px;
  overflow: auto;
  min-width: 0;
  ${UPRIGHT} {
    overflow: visible;
    padding: 12px 14px;
  }
  display: flex;
  flex-direction: column;
  gap: 12px;
  & + & {
    border-left: 1px solid var(--line);
  }
  h1 {
    font-size: 22px;
    line-height: 1.15;
  }
  h2 {
    font-size: 16px;
    color: var(--soft);
    font-weight: 500;
  }
`;
const One = styled(AriaButton)<{ $rejected: boolean }>`
  width: 100%;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  text-align: left;
  padding: 9px 12px;
  cursor: pointer;
  background: var(--sheet);
  border: 1.5px solid var(--line);
  border-radius: 9px;
  line-height: 1.25;
  ${({ $rejected }) => $rejected && "background: transparent; border-style: dashed;"}
  &[data-current="true"] {
    border: 1.5px solid var(--ink);
    box-shadow: inset 0 0 0 1.5px var(--ink);
  }
  b {
    font-size: 17px;
  }
  .points {
    grid-column: 1 / -1;
    font-size: 16px;
    color: var(--soft);
  }
  .against {
    color: var(--failed);
    font-weight: 650;
  }
  .changes {
    color: var(--copper);
    font-weight: 600;
  }
`;
const Fit = styled.span<{ $fit: Schema["Fit"] }>`
  font-size: 16px;
  font-weight: 700;
  color: ${({ $fit }) => ({ exact: "var(--sound)", near: "var(--copper)", rejected: "var(--failed)" })[$fit]};
`;
const List = styled.ul`
  display: grid;
  gap: 7px;
`;
const FIT_WORDS = { exact: "● fits", near: "◐ near: something differs", rejected: "✕ does not fit" } as const;
const TO = styled.ul`
  display: grid;
  gap: 5px;
  font-size: 16px;
  list-style: square;
  padding-left: 18px;
`;
const Act = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 4px 14px;
  border-radius: 8px;
  background: var(--ink);
  color: var(--on-ink);
  font-weight: 650;
  text-decoration: none;
  cursor: pointer;
`;

interface Props {
  tag: number | null;
  store: Schema["StoreView"];
}

export function MatchDesk({ tag, store }: Props) {
  const { data: known } = useQuery(reference);
  const [typed, setTyped] = useState<Schema["Requirement"] | null>(null);
  const forTag = useQuery({ ...matchFor(tag ?? 0), enabled: tag !== null && !typed });
  const forTyped = useQuery({ ...matchRequirement(typed ?? ({} as Schema["Requirement"])), enabled: typed !== null });
  const old = useQuery({ ...battery(tag ?? 0), enabled: tag !== null });
  const found = typed ? forTyped.data : forTag.data;
  const [picked, setPicked] = useState<number | null>(null);
  const [afresh, setAfresh] = useState(0);
  const [all, setAll] = useState(false);
  const error = typed ? forTyped.error : forTag.error;
  // Until it is known what the battery asks for, neither a form nor a claim about it may stand here.
  const settled = tag === null || typed !== null || !forTag.isPending;
  const reading = typed ? forTyped.isPending : tag !== null && forTag.isPending;

  const matches = found?.matches ?? [];
  const fitting = matches.filter((one) => one.fit !== "rejected");
  const rejected = matches.filter((one) => one.fit === "rejected");
  const current = matches.find((one) => one.candidate.item_id === picked) ?? matches[0];
  const asked = found?.requirement;
  const oldSize = old.data?.size ?? (asked ? found.sizes[asked.group_code] : undefined);
  const newSize = current ? found?.sizes[current.candidate.group_code] : undefined;

  return (
    <Columns>
      <Column aria-label="What is asked for">
        <h1>{tag === null ? "What fits?" : `Replaces ${tag}`}</h1>
        {asked && <h2>from {asked.source || "what is typed"}</h2>}
        {found?.asked_as && <Soft>{found.asked_as}</Soft>}
        {settled && <Asked key={`${tag}-${afresh}`} start={forTag.data?.requirement ?? null} onAsk={setTyped} />}
        {typed && tag !== null && (
          <Button
            onPress={() => {
              setTyped(null);
              setAfresh(afresh + 1);
            }}
          >
            Back to what {tag} asks for
          </Button>
        )}
      </Column>
      <Column aria-label="Candidates">
        {error && <p style={{ color: "var(--failed)" }}>{error.message}</p>}
        {reading && <Soft role="status">Looking through the catalogue…</Soft>}
        {!asked && !error && !reading && (
          <Empty>
            <h2>Say what is asked for</h2>
            <p>
              {tag === null
                ? "Type a size and a rating on the left, or type a tag number."
                : "Its label has no size and its car is not known: type the size on the left."}
            </p>
          </Empty>
        )}
        {asked && (
          <>
            <h2>
              {found.fitting} of {found.rejected_more && "more than "}
              {found.fitting + found.rejected} fit; {fitting.filter((one) => one.candidate.in_stock > 0).length} of
              those shown in stock
            </h2>
            {fitting.length === 0 && (
              <p>Nothing in the catalogue fits. The nearest stand below with what is against them.</p>
            )}
            <List>
              {[...fitting, ...(all ? rejected : rejected.slice(0, Math.max(4 - fitting.length, 2)))].map((one) => (
                <li key={one.candidate.item_id}>
                  <Candidate one={one} current={one === current} currency={found.currency} onPick={setPicked} />
                </li>
              ))}
            </List>
            {all && found.rejected > rejected.length && (
              <Soft>
                and {found.rejected_more && "more than "}
                {found.rejected - rejected.length} more, further off
              </Soft>
            )}
            {rejected.length > 2 && (
              <Button onPress={() => setAll(!all)}>
                {all ? "Fewer" : `Why the other ${found.rejected_more ? "thousands" : found.rejected} do not fit`}
              </Button>
            )}
          </>
        )}
      </Column>
      <Column aria-label="Old and new">
        {oldSize && newSize && current && (
          <>
            <h2>
              <span style={{ color: "var(--copper)" }}>- - old {oldSize.code}</span>, solid new {newSize.code}
            </h2>
            <Overlay old={oldSize} fresh={newSize} store={store} />
            <TO>
              {current.to_do.map((job) => (
                <li key={job}>{job}</li>
              ))}
            </TO>
            {tag !== null && current.fit !== "rejected" && (
              <Act href={`/warranty/${tag}?with=${current.candidate.item_id}`}>Price it against the warranty</Act>
            )}
            {known?.cautions["fit"]?.map((text) => (
              <Caution key={text}>{text}</Caution>
            ))}
          </>
        )}
      </Column>
    </Columns>
  );
}

function Candidate({
  one,
  current,
  currency,
  onPick,
}: {
  one: Schema["Match"];
  current: boolean;
  currency: string;
  onPick: (id: number) => void;
}) {
  const against = one.points.filter((point) => point.stands === "against");
  const changes = one.points.filter((point) => point.stands === "changes");
  const fits = one.points.filter((point) => point.stands === "fits");
  return (
    <One
      $rejected={one.fit === "rejected"}
      data-current={current}
      aria-pressed={current}
      data-fit={one.fit}
      onPress={() => onPick(one.candidate.item_id)}
    >
      <b>{one.candidate.name}</b>
      <b>{money(one.candidate.price_cents, currency)}</b>
      <Fit $fit={one.fit}>{FIT_WORDS[one.fit]}</Fit>
      <Soft>{one.candidate.in_stock ? `${one.candidate.in_stock} in stock` : "to order"}</Soft>
      <span className="points">
        {against.map((point) => (
          <span key={point.text} className="against">
            {point.text}.{" "}
          </span>
        ))}
        {changes.map((point) => (
          <span key={point.text} className="changes">
            {point.text}.{" "}
          </span>
        ))}
        {one.fit !== "rejected" &&
          fits
            .filter((point) => point.about !== "stock")
            .map((point) => point.text)
            .join(" · ")}
      </span>
    </One>
  );
}
