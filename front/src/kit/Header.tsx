/** The top line: the battery in hand with its desks at the left, the house's desks and who is at work at the right. */
import { useCallback, useEffect, useLayoutEffect, useState } from "react";
import { Button as AriaButton, Dialog, DialogTrigger, Link } from "react-aria-components";
import { useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import type { Schema } from "../api/client";
import { HelpPage } from "./HelpPage";
import { Person, Sheet } from "./topLine";
import { StoreSwitch } from "./StoreSwitch";
import { TagLine } from "./TagLine";
import { WaitingSheet } from "./WaitingSheet";
import { takeInHand, useInHand } from "./inHand";
import { Key_ } from "./parts";
import { LEAVE, listenForTags } from "./scan";
import { NARROW, PHONE } from "./theme";
import { expectField, noField } from "./typeAhead";
import { useLight } from "./useLight";
import { t } from "../language/t";

const PersonInSheet = styled(Person)`
  display: block;
  margin-top: 6px;
  width: 100%;
`;
const SheetActs = styled.div`
  display: flex;
  gap: 6px;
  margin-top: 6px;
`;

const Bar = styled.header`
  display: flex;
  align-items: stretch;
  gap: 4px;
  padding: 0 16px;
  border-bottom: 2px solid var(--rule);
  background: var(--ground);
  min-width: 0;
  ${PHONE} {
    padding: 0 6px;
  }
`;
const TagInHand = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 84px;
  padding: 0 8px 0 0;
  border: none;
  background: none;
  cursor: pointer;
  font-size: 28px;
  font-weight: 800;
  white-space: nowrap;
  small {
    font-size: 16px;
    font-weight: 600;
  }
  ${PHONE} {
    min-width: 44px;
    font-size: 24px;
    kbd {
      display: none;
    }
  }
`;
const Desks = styled.nav`
  display: flex;
  flex: none;
  a {
    display: grid;
    place-items: center;
    padding: 4px clamp(7px, 0.9vw, 12px) 0;
    min-width: 44px;
    color: var(--soft);
    text-decoration: none;
    border-bottom: 4px solid transparent;
    font-size: 17px;
    cursor: pointer;
  }
  a[aria-current="page"] {
    color: var(--ink);
    font-weight: 750;
    border-color: var(--copper);
  }
  a[data-hovered] {
    color: var(--ink);
  }
  ${PHONE} {
    a {
      padding: 4px 5px 0;
      min-width: 40px;
      font-size: 16px;
    }
  }
`;
const HouseDesks = styled(Desks)`
  ${NARROW} {
    display: none;
  }
`;
const Right = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin-left: auto;
  color: var(--soft);
  font-size: 16px;
  white-space: nowrap;
`;

const OF_A_BATTERY = [
  ["check", t("screens.check")],
  ["match", t("header.match")],
  ["warranty", t("header.warranty")],
  ["life", t("header.life")],
] as const;
const OF_THE_HOUSE = [
  ["counter", t("screens.counter_2")],
  ["rack", t("header.rack")],
  ["goods", t("screens.goods_2")],
  ["records", t("screens.records_2")],
  ["rules", t("screens.house_rules")],
] as const;
/** What belongs to a desk and has a page of its own. */
const PART_OF: Record<string, string> = { counter: "take-in", rack: "equipment", records: "customers", rules: "house" };
const DESK_OF_LETTER: Record<string, string> = { b: "check", m: "match", w: "warranty", i: "life" };
const HOUSE_OF_LETTER: Record<string, string> = { c: "counter", r: "records", "=": "rack", "+": "goods" };

const CLOSES_IN_MS = 40;

interface Props {
  who: Schema["Me"];
  staff: Schema["Person"][];
  current: number | null;
  onChange: (personId: number | null) => void;
}

const initials = (name: string) => name.replace(/(\S)\S*\s*/g, "$1");

export function Header({ who, staff, current, onChange }: Props) {
  const navigate = useNavigate();
  const [tagLine, setTagLine] = useState<string | null>(null);
  const [help, setHelp] = useState(false);
  const [light, other] = useLight();
  const { pathname } = useLocation();
  const here = pathname.split("/")[1] ?? "";
  const lastInHand = useInHand();
  const inHand = current ?? lastInHand;
  useEffect(() => {
    if (current !== null) takeInHand(current);
  }, [current]);

  const letter = useCallback(
    (key: string) => {
      const low = key.toLowerCase();
      const house = HOUSE_OF_LETTER[low];
      const desk = DESK_OF_LETTER[low];
      if (key === "?") setHelp(true);
      else if (house) void navigate(`/${house}`);
      else if (desk === "match" && (inHand === null || here === "match")) void navigate("/match");
      else if (desk && inHand !== null) void navigate(`/${desk}/${inHand}`);
      else return false;
      return true;
    },
    [navigate, inHand, here],
  );
  // What was typed for a battery and waits for its field is not typed into anything of another desk.
  const atACheck = here === "check";
  useLayoutEffect(() => {
    if (!atACheck) noField();
  }, [atACheck, pathname]);
  useLayoutEffect(() => listenForTags({ open: setTagLine, letter }), [letter]);

  const go = useCallback(
    (tag: number) => {
      document.querySelector("[data-open]")?.dispatchEvent(new CustomEvent(LEAVE));
      setTagLine(null);
      noField(); // what was typed for another battery is not typed into this one
      if (pathname !== `/check/${tag}`) expectField("desk");
      // once the line is closed: it gives the focus back to where it was
      window.setTimeout(() => void navigate(`/check/${tag}`), CLOSES_IN_MS);
    },
    [navigate, pathname],
  );
  const houseLinks = OF_THE_HOUSE.map(([desk, name]) => (
    <Link
      key={desk}
      href={`/${desk}`}
      {...(here === desk || here === PART_OF[desk] ? { "aria-current": "page" as const } : {})}
    >
      {name}
    </Link>
  ));
  return (
    <Bar>
      <TagInHand onPress={() => setTagLine("")}>
        {inHand ?? <small>{t("header.battery")}</small>}
        <span className="quiet">{inHand === null ? t("header.go_to_one") : t("header.in_hand_go_to_another")}</span>
        <Key_>/</Key_>
      </TagInHand>
      {inHand !== null && (
        <Desks aria-label={t("header.desks_of_battery", { in_hand: inHand })}>
          {OF_A_BATTERY.map(([desk, name]) => (
            <Link
              key={desk}
              href={`/${desk}/${inHand}`}
              {...(here === desk && current !== null ? { "aria-current": "page" as const } : {})}
            >
              {name}
            </Link>
          ))}
        </Desks>
      )}
      <Right>
        <WaitingSheet />
        <HouseDesks aria-label={t("header.desks_of_the_house")}>{houseLinks}</HouseDesks>
        <StoreSwitch who={who} />
        {staff.map((person) => (
          <Person
            key={person.id}
            $onlyWide
            data-current={person.id === who.id}
            aria-label={
              person.id === who.id
                ? t("header.is_signed_in_lock", { name: person.name })
                : t("header.change_to", { initials: initials(person.name), name: person.name })
            }
            onPress={() => onChange(person.id)}
          >
            {person.id === who.id ? person.name : initials(person.name)}
          </Person>
        ))}
        <DialogTrigger>
          <Person $onlyNarrow aria-label={t("header.menu_desks_of_the_house_who_is_at_work")}>
            {initials(who.name)} ☰
          </Person>
          <Sheet placement="bottom end">
            <Dialog aria-label={t("header.menu")}>
              {({ close }) => (
                <>
                  <Desks as="nav" aria-label={t("header.desks_of_the_house")} onClick={close}>
                    {houseLinks}
                  </Desks>
                  {staff.map((person) => (
                    <PersonInSheet key={person.id} onPress={() => onChange(person.id)}>
                      {person.id === who.id
                        ? t("header.lock_leaves", { name: person.name })
                        : t("header.change_to_2", { name: person.name })}
                    </PersonInSheet>
                  ))}
                  <SheetActs>
                    <Person onPress={other}>
                      {light === "paper" ? t("header.bench_light") : t("header.paper_light")}
                    </Person>
                    <Person
                      onPress={() => {
                        close();
                        setHelp(true);
                      }}
                    >
                      {t("header.help")}
                    </Person>
                  </SheetActs>
                </>
              )}
            </Dialog>
          </Sheet>
        </DialogTrigger>
        <Person
          $notPhone
          aria-label={t("header.change_to_light", { t: light === "paper" ? t("screens.bench") : t("header.paper") })}
          onPress={other}
        >
          {light === "paper" ? "◐" : "◑"}
        </Person>
        <Person $notPhone aria-label={t("header.help")} onPress={() => setHelp(true)}>
          ?
        </Person>
      </Right>
      {tagLine !== null && <TagLine start={tagLine} onClose={() => setTagLine(null)} onGo={go} />}
      {help && <HelpPage desk={here} onClose={() => setHelp(false)} />}
    </Bar>
  );
}
