/** What can be done with a battery once it is judged: the next thing first; paper, claim, match, and where it is put. */
import { useRef, useState } from "react";
import { Button as AriaButton, Link, Menu, MenuTrigger } from "react-aria-components";
import { useNavigate } from "react-router";
import styled, { css } from "styled-components";
import { ApiProblem, api, answerOf, writeHeader, type Schema } from "../../api/client";
import { linkTo } from "../../api/link";
import { OnItsWay, useOtherStores, useSend } from "../../stores/sending";
import { askAgain, learn } from "../../api/live";
import { shelf } from "../../api/queries";
import { newId, nowMs } from "../../kit/clock";
import { MenuSheet as Sheet, MenuOption as Item } from "../../kit/menu";
import { Key_ } from "../../kit/parts";
import { UPRIGHT } from "../../kit/theme";
import { PLACES } from "../../kit/words";
import { useLetters } from "../../kit/letters";
import { CHARGES } from "./charges";
import { t } from "../../language/t";

/** What can be done is in sight whatever stands above it. */
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  position: sticky;
  bottom: 0;
  padding: 6px 0 8px;
  margin-bottom: -8px;
  background: var(--ground);
  ${UPRIGHT} {
    position: static;
  }
`;
const act = css`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  padding: 4px 12px;
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  font-weight: 650;
  font-size: 16px;
  text-decoration: none;
  color: var(--ink);
  background: none;
  cursor: pointer;
  &[data-hovered] {
    box-shadow: inset 0 0 0 1px currentColor;
  }
`;
const first = css`
  border-color: var(--copper);
  color: var(--copper);
  box-shadow: inset 0 0 0 1px var(--copper);
`;
const ActLink = styled(Link)<{ $first?: boolean }>`
  ${act}
  ${({ $first }) => $first && first}
`;
const ActButton = styled(AriaButton)`
  ${act}
`;
const Big = styled(AriaButton)<{ $unsafe: boolean }>`
  ${act}
  flex-basis: 100%;
  min-height: 52px;
  font-size: 19px;
  justify-content: space-between;
  border-color: var(--copper);
  color: var(--copper);
  ${({ $unsafe }) =>
    $unsafe &&
    css`
      border: 7px solid;
      border-image: repeating-linear-gradient(115deg, var(--band-a) 0 14px, var(--band-b) 14px 28px) 7;
      color: #1f2226;
      background: var(--band-b);
    `}
`;

const FirstAct = styled(ActLink)`
  flex-basis: 100%;
  min-height: 52px;
  font-size: 19px;
`;
const Trouble = styled.p`
  color: var(--failed);
  flex-basis: 100%;
`;

type Move = [Schema["PutThere"]["place"], number | null, string];

/** Where to, and after how many hours a hand is needed. */
/** Paper that hangs on it while it stands somewhere. */
/** What is opened from the menu of places, and how it is asked for. */
const PAPERS = [
  ["tag", t("actions.print_its_rack_tag")],
  ["label", t("actions.print_a_small_label")],
] as const;
const paperOf = (tag: number, paper: string) =>
  paper === "retest"
    ? linkTo("/api/batteries/{tag}/retest.ics", { tag })
    : `${linkTo("/api/batteries/{tag}/rack-tag.pdf", { tag })}${paper === "label" ? "?size=label" : ""}`;
const SAY = "say";
const UNKNOWN_HOURS = 10;
/** Before the number of a store in the menu. */
const TO_STORE = "to-store-";

/** Steps that end with a paper handed over. */
const PAPER_LAST = new Set<Schema["StepKey"]>(["give_back", "retest_later", "sold"]);

/** Where it can be put, for as long as its own charge and the house's rests take. */
function movesOf({ plan, rest_hours, stand_hours }: Schema["Limits"]): Move[] {
  const charge = Math.round(plan?.hours ?? UNKNOWN_HOURS);
  const rests = [...new Set([rest_hours, stand_hours])];
  return [
    ["counter", null, t("screens.counter")],
    ["bench", null, t("actions.bench")],
    ["on_charge", 1, t("actions.on_charge_look_in_1_h")],
    ...(charge > 1 ? [["on_charge", charge, t("actions.on_charge_by_its_plan_h", { charge })] satisfies Move] : []),
    ...rests.map((hours): Move => ["standing", hours, t("actions.standing_h", { hours })]),
    ["ready", null, t("actions.ready_to_go")],
    ["held_apart", null, t("actions.held_apart")],
    ["gone", null, t("actions.handed_over_left_the_house")],
  ];
}

/** The move that a step asks for, where it is one. */
function moveOf({ key, minutes }: Schema["NextStep"], place: Schema["CheckView"]["place"]): Move | null {
  const hours = Math.max(Math.round(minutes / 60), 1);
  if (key === "hold_apart" && place !== "held_apart") return ["held_apart", null, t("actions.hold_it_apart_now")];
  if (CHARGES.has(key) && place !== "on_charge")
    return ["on_charge", hours, t("actions.put_it_on_charge_look_in_h", { hours })];
  if (key === "stand" && place !== "standing")
    return ["standing", hours, t("actions.let_it_stand_look_in_h", { hours })];
  if (key === "stop_charge" && place === "on_charge") return ["bench", null, t("actions.take_it_off_the_charger")];
  return null;
}

interface Props {
  view: Schema["CheckView"];
  judgement: Schema["Judgement"];
  /** Go to the rung of the next step, where it has one that is not open. */
  onNext: (() => void) | null;
  onJob: (job: Schema["Job"]) => void;
  /** Somebody has something to say of it. */
  onSay: () => void;
}

export function Actions({ view, judgement, onNext, onJob, onSay }: Props) {
  const navigate = useNavigate();
  const { tag } = view;
  const { key } = judgement.next_step;
  const condemned = key === "replace";
  const job = (judgement.jobs ?? []).find((one) => one.key !== "" && one.key === judgement.next_step.job);
  const doJob = job?.proof === "look" ? job : null;
  const toMatch = judgement.next_step.job === "right_type";
  const toRack = CHARGES.has(key) && view.place !== "on_charge" && view.racked;
  const move = toRack ? null : moveOf(judgement.next_step, view.place);
  const [trouble, setTrouble] = useState("");
  const [menu, setMenu] = useState(false);
  const unanswered = useRef<{ words: string; id: string; body: Schema["PutThere"] } | null>(null);
  const others = useOtherStores();
  const send = useSend(() => void askAgain(["battery", tag], shelf.queryKey));
  const slip = linkTo(key === "sold" ? "/api/batteries/{tag}/sale.pdf" : "/api/batteries/{tag}/slip.pdf", { tag });
  const moves = movesOf(view.limits);

  async function put([place, hours, words]: Move) {
    const needs_hand_at = hours === null ? null : new Date(nowMs() + hours * 3_600_000).toISOString();
    // Pressed again after an answer that never came, it is the same write.
    const write =
      unanswered.current?.words === words ? unanswered.current : { words, id: newId(), body: { place, needs_hand_at } };
    unanswered.current = write;
    try {
      const moved = answerOf(
        api.PUT("/api/batteries/{tag}/place", {
          params: { path: { tag }, ...writeHeader(write.id) },
          body: write.body,
        }),
      );
      await learn(await moved);
      unanswered.current = null;
      setTrouble("");
    } catch (error) {
      if (error instanceof ApiProblem && error.status < 500) unanswered.current = null;
      const why = error instanceof ApiProblem ? error.message : t("actions.the_server_does_not_answer");
      setTrouble(t("actions.not_moved_still_try_again", { place: PLACES[view.place], why }));
    }
  }

  function next() {
    if (onNext) onNext();
    else if (doJob) onJob(doJob);
    else if (move) void put(move);
    else if (toRack) void navigate(`/rack/${tag}`);
    else if (toMatch) void navigate(`/match/${tag}`);
    else if (condemned) void navigate(`/warranty/${tag}`);
    else if (key === "read_label") void navigate(`/take-in/${tag}`);
    else window.open(slip, "_blank");
  }
  useLetters({ s: () => void window.open(slip, "_blank"), u: () => setMenu(true), n: next });

  return (
    <Row>
      {move && (
        <Big $unsafe={key === "hold_apart"} onPress={() => void put(move)} data-next>
          {move[2]} <Key_>N</Key_>
        </Big>
      )}
      {toRack && (
        <FirstAct href={`/rack/${tag}`} $first data-next>
          {t("actions.onto_a_charger_at_the_rack")} <Key_>N</Key_>
        </FirstAct>
      )}
      {doJob && (
        <Big $unsafe={false} onPress={() => onJob(doJob)}>
          {t("screens.look_again_is_it_done")} <Key_>N</Key_>
        </Big>
      )}
      {key === "read_label" && (
        <ActLink href={`/take-in/${tag}`} $first data-next>
          {t("actions.enter_the_rating")} <Key_>N</Key_>
        </ActLink>
      )}
      <ActLink href={`/warranty/${tag}`} $first={condemned} {...(condemned ? { "data-next": true } : {})}>
        {t("screens.warranty")} <Key_>W</Key_>
      </ActLink>
      <ActLink href={`/match/${tag}`} $first={condemned || toMatch} {...(toMatch ? { "data-next": true } : {})}>
        {t("screens.match")} <Key_>M</Key_>
      </ActLink>
      <ActLink
        href={slip}
        target="_blank"
        $first={PAPER_LAST.has(key)}
        {...(PAPER_LAST.has(key) ? { "data-next": true } : {})}
      >
        {key === "sold" ? t("fitting_desk.paper_for_the_sale") : t("screens.slip")} <Key_>S</Key_>
      </ActLink>
      {view.stay !== null && <ActLink href={`/rack/${tag}`}>{t("actions.rack")}</ActLink>}
      <MenuTrigger isOpen={menu} onOpenChange={setMenu}>
        <ActButton>
          <span className="quiet">{t("actions.stands")} </span>
          {PLACES[view.place]} ▾<span className="quiet">{t("actions.put_it_somewhere_else")}</span> <Key_>U</Key_>
        </ActButton>
        <Sheet placement="top end">
          <Menu
            onAction={(index) => {
              const picked = moves[Number(index)];
              const store = others.find(({ id }) => `${TO_STORE}${id}` === index);
              if (picked) void put(picked);
              else if (store) send.write({ to_store_id: store.id, tag });
              else if (index === SAY) onSay();
              else window.open(paperOf(tag, String(index)), "_blank");
            }}
            aria-label={t("actions.put_it")}
          >
            {moves.map(([, , words], index) => (
              <Item key={words} id={index}>
                {words}
              </Item>
            ))}
            <Item id={SAY}>{t("own_word.note_or_say_otherwise")}</Item>
            {PAPERS.map(([path, words]) => (
              <Item key={path} id={path}>
                {words}
              </Item>
            ))}
            {others.map((store) => (
              <Item key={store.id} id={`${TO_STORE}${store.id}`}>
                {t("actions.send_to", { name: store.name })}
              </Item>
            ))}
            {judgement.watch_until && <Item id="retest">{t("actions.retest_into_a_calendar")}</Item>}
          </Menu>
        </Sheet>
      </MenuTrigger>
      <OnItsWay tag={tag} />
      {(trouble || send.beside()) && (
        <Trouble role="alert">{trouble || t("actions.not_sent", { beside: send.beside() ?? "" })}</Trouble>
      )}
    </Row>
  );
}
