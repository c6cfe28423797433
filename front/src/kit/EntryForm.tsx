/** A form of a desk: its fields, what is wrong in each of them and beside them, one button that sends it, one that leaves it. */
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useState,
  type ComponentProps,
  type ReactNode,
} from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { t } from "../language/t";
import { Acts, Fault } from "./formParts";
import { Button } from "./parts";
import { Entry } from "./Entry";

/** What a write says of its faults. */
interface Written {
  of: (path: string) => string | undefined;
  beside: (...paths: string[]) => string | undefined;
  pending: boolean;
}
interface Place {
  of: (path: string) => string | undefined;
  /** A field stands for this path: its fault is not said again beside the form. Gives how to take that back. */
  claim: (path: string) => () => void;
}

const Here = createContext<Place>({ of: () => undefined, claim: () => () => undefined });

const Whole = styled(Form)`
  display: grid;
  gap: 10px;
`;
interface Props {
  label: string;
  write: Written;
  /** What stands before the paths of its fields in the body that is sent. */
  within?: string;
  /** Another write of the same form, whose faults are said beside it too. */
  also?: Written;
  ready?: boolean;
  onSend: () => void;
  /** What its button says. */
  keep: string;
  onLeave?: () => void;
  /** More that can be done, or said, beside its buttons. */
  acts?: ReactNode;
  children: ReactNode;
}

export function EntryForm({
  label,
  write,
  within = "",
  also,
  ready = true,
  onSend,
  keep,
  onLeave,
  acts,
  children,
}: Props) {
  const [claimed, setClaimed] = useState<string[]>([]);
  const claim = useCallback((path: string) => {
    setClaimed((before) => [...before, path]);
    return () => setClaimed((before) => before.filter((one) => one !== path));
  }, []);
  const beside = write.beside(...claimed.map((path) => within + path)) ?? also?.beside();
  return (
    <Whole
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onSend();
      }}
    >
      <Here.Provider value={{ of: (path) => write.of(within + path), claim }}>{children}</Here.Provider>
      {beside && <Fault role="alert">{beside}</Fault>}
      <Acts>
        <Button type="submit" $tone="strong" isDisabled={write.pending || !ready}>
          {keep}
        </Button>
        {acts}
        {onLeave && <Button onPress={onLeave}>{t("screens.leave_it")}</Button>}
      </Acts>
    </Whole>
  );
}

/** The fault of a path of the form around it, which the caller shows. */
export function useFault(path: string): string | undefined {
  const { of, claim } = useContext(Here);
  useEffect(() => claim(path), [claim, path]);
  return of(path);
}

/** The fault of a field that has no place of its own for it. */
export function FaultOf({ path }: { path: string }) {
  const fault = useFault(path);
  return fault ? <Fault role="alert">{fault}</Fault> : null;
}

/** One typed value of the form around it; its fault stands below it. */
export function Typed({ path, problem, ...entry }: { path: string } & ComponentProps<typeof Entry>) {
  const fault = useFault(path);
  return <Entry name={path} {...entry} problem={problem ?? fault} />;
}
