/** The spoken line: what is usually right is one sentence. Touch a word, or its letter, and only its choices open. */
import { createContext, useContext, useId, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled, { css } from "styled-components";
import { isFree, useKeydown } from "./letters";
import { Choice } from "./parts";
import { Entry } from "./Entry";
import { t } from "../language/t";

/** Stands before a letter that is pressed with shift: the desk's own letters are all taken. */
const SHIFT = "⇧";

const Line = styled.p`
  font-size: 18px;
  line-height: 2.1;
`;
const Word_ = styled(AriaButton)<{ $odd: boolean }>`
  position: relative;
  display: inline-flex;
  align-items: center;
  gap: 4px;
  min-height: 44px;
  min-width: 44px;
  margin: -6px 0;
  padding: 0 3px;
  border: none;
  background: none;
  font-size: 18px;
  font-weight: 650;
  cursor: pointer;
  span {
    border-bottom: 2.5px dotted var(--copper);
    line-height: 1.3;
  }
  sup {
    color: var(--soft);
    font-size: 13px;
    font-weight: 700;
  }
  ${({ $odd }) =>
    $odd &&
    css`
      color: var(--failed);
      span {
        border-bottom: 3px solid var(--failed);
      }
    `}
  &[aria-expanded="true"] span {
    border-bottom-style: solid;
  }
  &[data-hovered] span {
    background: var(--shelf);
  }
`;
const Opened = styled.div`
  padding: 6px 0 4px;
`;

interface Open {
  name: string | null;
  set: (name: string | null) => void;
}
/** Which word of the sentence is open. */
export const OpenWord = createContext<Open>({ name: null, set: () => undefined });

/** A sentence of words; the choices of the word that is open stand right below it. */
export function Spoken({ children, label }: { children: ReactNode; label: string }) {
  const [name, set] = useState<string | null>(null);
  return (
    <OpenWord.Provider value={{ name, set }}>
      <div role="group" aria-label={label}>
        {children}
      </div>
    </OpenWord.Provider>
  );
}

export const Sentence = ({ children }: { children: ReactNode }) => <Line>{children}</Line>;

interface WordProps {
  name: string;
  label: string;
  /** What it says now. */
  says: string;
  letter?: string | undefined;
  /** It differs from the label, or from what was seen. */
  odd?: boolean;
}

/** A touchable word of the sentence. */
export function Word({ name, label, says, letter, odd = false }: WordProps) {
  const open = useContext(OpenWord);
  const isOpen = open.name === name;
  const toggle = () => open.set(isOpen ? null : name);
  useKeydown((event) => {
    if (!letter || !isFree(event, letter.startsWith(SHIFT))) return;
    if (event.key.toLowerCase() !== letter.at(-1)?.toLowerCase()) return;
    event.preventDefault();
    toggle();
  });
  return (
    <Word_ $odd={odd} aria-expanded={isOpen} onPress={toggle} data-word={name}>
      <small className="quiet">{label}: </small>
      <span>{says}</span>
      {odd && <small className="quiet">{t("spoken.not_as_on_the_label")}</small>}
      {letter && <sup aria-hidden>{letter}</sup>}
    </Word_>
  );
}

interface ChoicesProps<Value extends string> {
  name: string;
  label: string;
  value: Value;
  words: Partial<Record<Value, string>>;
  onChange: (value: Value) => void;
  /** It stays open once picked: there is more to say. */
  stays?: true;
}

/** The choices of a word, while it is open; picking one closes them. */
export function WordChoices<Value extends string>({ name, label, value, words, onChange, stays }: ChoicesProps<Value>) {
  const open = useContext(OpenWord);
  const box = useRef<HTMLDivElement>(null);
  const isOpen = open.name === name;
  useLayoutEffect(() => {
    if (isOpen) box.current?.querySelector<HTMLElement>("input:checked, input")?.focus();
  }, [isOpen]);
  if (!isOpen) return null;
  return (
    <Opened ref={box} onKeyDown={(event) => (event.key === "Enter" || event.key === "Escape") && close(event)}>
      <Choice
        label={label}
        value={value}
        words={words}
        onChange={(picked) => {
          onChange(picked);
          if (stays) return;
          if (box.current?.contains(document.activeElement) && !pointed.current) return;
          const form = box.current?.closest("form");
          open.set(null);
          if (form) keepHand(form);
        }}
      />
    </Opened>
  );
  function close(event: React.KeyboardEvent) {
    event.preventDefault();
    event.stopPropagation();
    open.set(null);
    document.querySelector<HTMLElement>(`[data-word="${name}"]`)?.focus();
  }
}

/** A word was picked by finger and its choices are gone: Enter keeps what the form says, as it does from a figure. The radio that
 * was touched takes the focus once more on its way out. */
function keepHand(form: HTMLFormElement) {
  const take = () =>
    form.querySelector<HTMLElement>('input[inputmode="decimal"], [type="submit"]')?.focus({ preventScroll: true });
  take();
  window.setTimeout(() => {
    if (document.activeElement === document.body) take();
  });
}

/** Whether the last thing done was a touch: arrows walk through choices, a touch picks one. */
const pointed = { current: false };
window.addEventListener("pointerdown", () => (pointed.current = true), { capture: true });
window.addEventListener("keydown", () => (pointed.current = false), { capture: true });

interface FigureProps {
  name: string;
  label: string;
  value: string;
  onChange: (text: string) => void;
  unit: string;
  /** What it says cannot be: it opens, so that the fault is seen. */
  isWrong: boolean;
}

/** The field of a figure among the words, while it is open. */
export function WordFigure({ name, label, value, onChange, unit, isWrong }: FigureProps) {
  const open = useContext(OpenWord);
  const id = useId();
  if (open.name !== name && !isWrong) return null;
  return (
    // opened because it is wrong, it stays open while it is mended: a first good figure may be half of it
    <Opened style={{ width: isWrong ? 340 : 170 }} key={id} onFocus={() => open.set(name)}>
      <Entry label={label} value={value} onChange={onChange} unit={unit} name={name} autoFocus={open.name === name} />
    </Opened>
  );
}
