/** The top line: the tag in hand, the desks, who is at work, and what waits to be sent. */
import { useCallback, useEffect, useState } from "react";
import { Button as AriaButton, Dialog, DialogTrigger, Link, Popover } from "react-aria-components";
import { useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import type { Schema } from "../api/client";
import { WaitingSheet } from "./WaitingSheet";
import { Key_ } from "./parts";
import type { Light } from "./theme";
import { expectField } from "./typeAhead";
import { useTagTyping } from "./useTagTyping";

const Bar = styled.header`
  display: flex;
  align-items: stretch;
  gap: 6px;
  padding: 0 18px;
  border-bottom: 2px solid var(--rule);
  background: var(--ground);
`;
const TagInHand = styled.div<{ $typing: boolean }>`
  display: grid;
  place-items: center start;
  min-width: 104px;
  font-size: 28px;
  font-weight: 800;
  white-space: nowrap;
  color: ${({ $typing }) => ($typing ? "var(--copper)" : "var(--ink)")};
  small {
    font-size: 15px;
    font-weight: 600;
  }
`;
const Desks = styled.nav`
  display: flex;
  flex: 1;
  a {
    display: grid;
    place-items: center;
    padding: 4px 14px 0;
    min-width: 44px;
    color: var(--soft);
    text-decoration: none;
    border-bottom: 4px solid transparent;
    font-size: 17px;
    cursor: pointer;
  }
  a[data-current="true"] {
    color: var(--ink);
    font-weight: 750;
    border-color: var(--copper);
  }
  a[data-hovered] {
    color: var(--ink);
  }
`;
const Right = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--soft);
  font-size: 15px;
  white-space: nowrap;
`;
const Person = styled(AriaButton)`
  min-width: 44px;
  height: 44px;
  padding: 0 10px;
  border-radius: 22px;
  border: 1.5px solid var(--line);
  background: none;
  cursor: pointer;
  color: var(--soft);
  font-weight: 600;
  &[data-current="true"] {
    border-color: var(--ink);
    color: var(--ink);
  }
  &[data-hovered] {
    border-color: var(--ink);
  }
`;
const KeySheet = styled(Popover)`
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 18px 22px;
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 8px 14px;
    align-items: center;
    margin-top: 10px;
  }
  dt {
    display: flex;
    gap: 4px;
  }
`;

const DESKS = [
  ["counter", "Counter"],
  ["check", "Check"],
  ["match", "Match"],
  ["warranty", "Warranty"],
  ["records", "Records"],
  ["rules", "House rules"],
] as const;

const KEYS: [string[], string][] = [
  [["1", "2", "3", "↵"], "go to the battery with that tag"],
  [["L", "E", "V", "G"], "look, leakage, volts, cells (gravity)"],
  [["T", "P", "F", "K"], "tester, pull, fixed load, crank"],
  [["H", "D", "A"], "charge, stand, the car"],
  [["↵"], "keep what is typed"],
  [["C"], "counter: take a battery in"],
  [["?"], "these keys"],
];

interface Props {
  who: Schema["Me"];
  staff: Schema["Person"][];
  current: number | null;
  onChange: (personId: number | null) => void;
}

const initials = (name: string) =>
  name
    .split(" ")
    .map((part) => part[0])
    .join("");

export function Header({ who, staff, current, onChange }: Props) {
  const navigate = useNavigate();
  const [showKeys, setShowKeys] = useState(false);
  const { pathname } = useLocation();
  const here = pathname.split("/")[1];
  const toTag = useCallback(
    (tag: number) => {
      if (pathname !== `/check/${tag}`) expectField();
      void navigate(`/check/${tag}`);
    },
    [navigate, pathname],
  );
  const onKey = useCallback(
    (key: string) => {
      if (key === "?") setShowKeys((shown) => !shown);
      else if (key.toLowerCase() === "c") void navigate("/counter");
      else return false;
      return true;
    },
    [navigate],
  );
  const typed = useTagTyping(toTag, onKey);
  return (
    <Bar>
      <TagInHand $typing={typed !== ""} aria-live="polite">
        {typed !== "" ? `${typed}_` : current !== null ? current : <small>type a tag</small>}
      </TagInHand>
      <Desks aria-label="Desks">
        {DESKS.map(([desk, name]) => (
          <Link
            key={desk}
            href={desk === "counter" || desk === "rules" || current === null ? `/${desk}` : `/${desk}/${current}`}
            data-current={here === desk || (here === "take-in" && desk === "counter")}
          >
            {name}
          </Link>
        ))}
      </Desks>
      <Right>
        <WaitingSheet />
        <span>{who.store.name}</span>
        {staff.map((person) => (
          <Person
            key={person.id}
            data-current={person.id === who.id}
            aria-label={
              person.id === who.id
                ? `${person.name} is signed in: lock`
                : `${initials(person.name)}: Change to ${person.name}`
            }
            onPress={() => onChange(person.id)}
          >
            {person.id === who.id ? person.name : initials(person.name)}
          </Person>
        ))}
        <LightSwitch />
        <DialogTrigger isOpen={showKeys} onOpenChange={setShowKeys}>
          <Person aria-label="Keys">?</Person>
          <KeySheet placement="bottom end">
            <Dialog aria-label="Keys">
              <strong>Keys</strong>
              <dl>
                {KEYS.map(([keys, does]) => (
                  <KeyRow key={does} keys={keys} does={does} />
                ))}
              </dl>
            </Dialog>
          </KeySheet>
        </DialogTrigger>
      </Right>
    </Bar>
  );
}

function KeyRow({ keys, does }: { keys: string[]; does: string }) {
  return (
    <>
      <dt>
        {keys.map((key) => (
          <Key_ key={key}>{key}</Key_>
        ))}
      </dt>
      <dd>{does}</dd>
    </>
  );
}

const LIGHT = "vane-check-light";

function LightSwitch() {
  const [light, setLight] = useState<Light>(() => (localStorage.getItem(LIGHT) === "bench" ? "bench" : "paper"));
  useEffect(() => {
    document.documentElement.dataset["theme"] = light;
  }, [light]);
  const other: Light = light === "paper" ? "bench" : "paper";
  return (
    <Person
      aria-label={`Change to ${other} light`}
      onPress={() => {
        localStorage.setItem(LIGHT, other);
        setLight(other);
      }}
    >
      {light === "paper" ? "◐" : "◑"}
    </Person>
  );
}
