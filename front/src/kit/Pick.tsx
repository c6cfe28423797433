/** One of many: type to narrow. */
import { useContext, useEffect, useState } from "react";
import {
  ComboBox,
  ComboBoxStateContext,
  FormValidationContext,
  ListBox,
  ListBoxItem,
  Popover,
  type Key,
} from "react-aria-components";
import styled from "styled-components";
import { StyledInput, StyledLabel, Wrong } from "./parts";
import { t } from "../language/t";

const List = styled(ListBox)`
  max-height: 300px;
  overflow: auto;
  outline: none;
  padding: 4px;
`;
const Item = styled(ListBoxItem)`
  min-height: 40px;
  padding: 8px 10px;
  border-radius: 6px;
  cursor: pointer;
  display: flex;
  justify-content: space-between;
  gap: 12px;
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
    outline: none;
  }
  small {
    opacity: 0.8;
  }
`;
const Sheet = styled(Popover)`
  width: max(var(--trigger-width), 300px);
  background: var(--sheet);
  color: var(--ink);
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  box-shadow: 0 8px 28px rgb(0 0 0 / 0.22);
`;

export interface Option {
  id: string;
  name: string;
  note?: string;
}

interface PickProps {
  label: string;
  options: Option[];
  value: string | null;
  onChange: (id: string | null) => void;
  placeholder?: string;
  /** Its name, by which the form around it puts its fault here. */
  name?: string;
  problem?: string | undefined;
  allowsOther?: (text: string) => void;
  text?: string;
  /** Told of every change of the text, where the options are looked up by it. */
  onType?: (text: string) => void;
  /** Enter in it picks, and sends nothing: the rest of the form may be half written. */
  enterPicks?: true;
  /** What is picked is called as it is kept: it is shown before the names are here, and nothing is put under a hand that types. */
  idIsName?: true;
}

/** The letter that completes a name opens the list, and picks by that name: there is nothing left to pick, it shuts. */
function ShutWhenNamed({ isNamed, byTyping }: { isNamed: boolean; byTyping: boolean }) {
  const list = useContext(ComboBoxStateContext);
  const isOpen = list?.isOpen ?? false;
  useEffect(() => {
    if (isOpen && isNamed && byTyping) list?.close();
    // Once for each time it opens or is named, whatever the list has become by now.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isOpen, isNamed, byTyping]);
  return null;
}

/**
 * One of many: type to narrow; a name typed whole is picked at once, so the number pad is enough. Typed before the
 * names are here it is picked as they come; what is none of them stays as it was typed, and says so.
 */
export function Pick(props: PickProps) {
  const { label, options, value, onChange, placeholder, name, allowsOther, text, onType } = props;
  const { enterPicks = false, idIsName = false } = props;
  const faults = useContext(FormValidationContext);
  const nameOf = (id: string | null) =>
    options.find((option) => option.id === id)?.name ?? (idIsName ? (id ?? "") : "");
  const [typed, setTyped] = useState(text ?? nameOf(value));
  const [shown, setShown] = useState(value);
  const [named, setNamed] = useState(options.length > 0);
  if (!named && options.length > 0) {
    // What was picked is shown by its name as soon as the names are known.
    setNamed(true);
    if (typed === "") setTyped(nameOf(value));
  }
  if (value !== shown) {
    setShown(value);
    if (value !== null || !allowsOther || text === "") setTyped(nameOf(value)); // or its owner took it away
  }
  const [left, setLeft] = useState(false);
  const [opened, setOpened] = useState<string>();
  const wholeOf = (next: string) => {
    const sought = next.trim().toLowerCase();
    return sought === "" ? undefined : options.find((option) => option.name.toLowerCase() === sought);
  };
  const late = value === null ? wholeOf(typed)?.id : undefined;
  useEffect(() => {
    if (late !== undefined) onChange(late);
    // Once for each that came late, whoever is to be told of it by now.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [late]);
  const isNone = left && !allowsOther && value === null && typed.trim() !== "" && options.length > 0;
  const fault =
    props.problem ??
    (isNone ? t("pick.not_in_the_list_pick_one_or_leave_it_empty") : name ? [faults[name]].flat()[0] : undefined);
  function type(next: string) {
    if (next === typed) return; // said again by the field itself, as the focus leaves it
    setTyped(next);
    setLeft(false);
    onType?.(next);
    allowsOther?.(next);
    const whole = wholeOf(next);
    if (whole && whole.id !== value) {
      setShown(whole.id);
      onChange(whole.id);
    } else if (!whole && value !== null && !allowsOther) {
      setShown(null);
      onChange(null);
    }
  }
  return (
    <ComboBox
      validationBehavior="aria"
      defaultItems={options}
      menuTrigger="focus"
      selectedKey={value}
      onSelectionChange={(key: Key | null) => key !== null && onChange(String(key))}
      inputValue={typed}
      onInputChange={type}
      onBlur={() => setLeft(true)}
      onOpenChange={(_, by) => setOpened(by)}
      {...(fault === undefined ? {} : { isInvalid: true })}
      {...(name ? { name } : {})}
      allowsCustomValue
    >
      <ShutWhenNamed isNamed={value !== null && wholeOf(typed)?.id === value} byTyping={opened === "input"} />
      <StyledLabel>{label}</StyledLabel>
      <StyledInput
        autoComplete="off"
        onKeyDown={(event) => enterPicks && event.key === "Enter" && event.preventDefault()}
        {...(placeholder ? { placeholder } : {})}
      />
      <Wrong>{fault}</Wrong>
      <Sheet>
        <List>
          {(each) => {
            const option = each as Option;
            return (
              <Item id={option.id} textValue={option.name}>
                <span>{option.name}</span>
                <small>{option.note}</small>
              </Item>
            );
          }}
        </List>
      </Sheet>
    </ComboBox>
  );
}
