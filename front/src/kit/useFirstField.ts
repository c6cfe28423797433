import { useLayoutEffect, useRef } from "react";
import { fieldStands } from "./typeAhead";

/** The form whose first figure takes the next keys, those typed before it stood among them. Focused here and now: a button that
 * was pressed by Enter would have it wait for the next frame, and a key fall between. */
export function useFirstField() {
  const form = useRef<HTMLFormElement>(null);
  useLayoutEffect(() => {
    form.current?.querySelector<HTMLInputElement>('input[inputmode="decimal"]')?.focus();
    fieldStands();
  }, []);
  return form;
}
