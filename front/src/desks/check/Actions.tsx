/** What can be done with a battery once it is judged: paper, claim, match, and where it is put. */
import { useRef, useState } from "react";
import { Button as AriaButton, Link, Menu, MenuItem, MenuTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { ApiProblem, api, asked, named, type Schema } from "../../api/client";
import { learned } from "../../api/queries";
import { newId, nowMs } from "../../kit/clock";
import { PLACES } from "../../kit/words";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const act = `
  display: inline-flex; align-items: center; min-height: 44px; padding: 4px 14px; border: 1.5px solid var(--ink); border-radius: 8px;
  font-weight: 650; text-decoration: none; color: var(--ink); background: none; cursor: pointer;
`;
const ActLink = styled(Link)<{ $first?: boolean }>`
  ${act}
  ${({ $first }) => $first && "border-color: var(--copper); color: var(--copper); box-shadow: inset 0 0 0 1px var(--copper);"}
`;
const ActButton = styled(AriaButton)`
  ${act}
`;
const Sheet = styled(Popover)`
  background: var(--sheet);
  color: var(--ink);
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  min-width: 230px;
`;
const Item = styled(MenuItem)`
  min-height: 44px;
  padding: 10px 14px;
  cursor: pointer;
  border-radius: 6px;
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
    outline: none;
  }
`;

/** Where to, and after how many hours a hand is needed. */
const MOVES: [Schema["PutThere"]["place"], number | null, string][] = [
  ["counter", null, "Counter"],
  ["bench", null, "Bench"],
  ["on_charge", 4, "On charge, look in 4 h"],
  ["on_charge", 10, "On charge, look in 10 h"],
  ["standing", 2, "Standing 2 h"],
  ["standing", 12, "Standing overnight, 12 h"],
  ["ready", null, "Ready to go"],
  ["held_apart", null, "Held apart"],
  ["gone", null, "Handed over, left the house"],
];

export function Actions({ view }: { view: Schema["CheckView"] }) {
  const condemned = view.judgement.next_step.key === "replace";
  const [trouble, setTrouble] = useState("");
  const unanswered = useRef<{ index: number; id: string; body: Schema["PutThere"] } | null>(null);
  async function put(index: number) {
    const move = MOVES[index];
    if (!move) return;
    const [place, hours] = move;
    const needs_hand_at = hours === null ? null : new Date(nowMs() + hours * 3_600_000).toISOString();
    // Pressed again after an answer that never came, it is the same write.
    const write =
      unanswered.current?.index === index ? unanswered.current : { index, id: newId(), body: { place, needs_hand_at } };
    unanswered.current = write;
    try {
      const moved = asked(
        api.PUT("/api/batteries/{tag}/place", {
          params: { path: { tag: view.tag }, ...named(write.id) },
          body: write.body,
        }),
      );
      await learned(await moved);
      unanswered.current = null;
      setTrouble("");
    } catch (error) {
      if (error instanceof ApiProblem && error.status < 500) unanswered.current = null;
      const why = error instanceof ApiProblem ? error.message : "the server does not answer";
      setTrouble(`Not moved, still ${PLACES[view.place]}: ${why}. Try again.`);
    }
  }
  return (
    <Row>
      {view.judgement.next_step.key === "read_label" && (
        <ActLink href={`/take-in/${view.tag}`} $first>
          Enter the rating
        </ActLink>
      )}
      <ActLink href={`/warranty/${view.tag}`} $first={condemned}>
        Warranty
      </ActLink>
      <ActLink href={`/match/${view.tag}`} $first={condemned}>
        Match
      </ActLink>
      <ActLink
        href={`/api/batteries/${view.tag}/slip.pdf`}
        target="_blank"
        $first={!condemned && view.judgement.next_step.key === "give_back"}
      >
        Slip
      </ActLink>
      <MenuTrigger>
        <ActButton aria-label={`Stands: ${PLACES[view.place]}. Put it somewhere else`}>
          {PLACES[view.place]} ▾
        </ActButton>
        <Sheet placement="top end">
          <Menu onAction={(key) => void put(Number(key))} aria-label="Put it">
            {MOVES.map(([, , words], index) => (
              <Item key={words} id={index}>
                {words}
              </Item>
            ))}
          </Menu>
        </Sheet>
      </MenuTrigger>
      {trouble && (
        <p role="alert" style={{ color: "var(--failed)", flexBasis: "100%" }}>
          {trouble}
        </p>
      )}
    </Row>
  );
}
