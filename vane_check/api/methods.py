"""Print the methods for the front end, as they are declared: `python -m vane_check.api.methods`."""

import json

from ..desks.house import methods

HEAD = """/** Made by bin/client from the methods as the core declares them: nothing is entered here by hand. */
import { t } from "../language/t";
import type { components } from "./schema";

type Schema = components["schemas"];

interface Declared {
  title: string;
  /** What it is read with, as equipment is named; null is eyes and hands. */
  readWith: string | null;
  /** Steps that are done by reading it. */
  openedBy: readonly Schema["StepKey"][];
  /** It puts hands, clamps or current on the battery: closed while that is unsafe. */
  handsOn: boolean;
}

export const METHODS = {
"""
TAIL = """} as const satisfies Partial<Record<Schema["Kind"], Declared>>;

/** A kind of reading that has a rung. */
export type Method = keyof typeof METHODS;
"""


def methods_text() -> str:
    """The methods as they are kept in front/src/api/methods.ts."""
    lines = []
    for method in methods():
        read_with, title = json.dumps(method.read_with), json.dumps(method.title.key)
        steps = ", ".join(json.dumps(key) for key in method.opened_by)
        hands = str(method.hands_on).lower()
        lines.append(
            f"  {method.kind}: {{ title: t({title}), readWith: {read_with}, openedBy: [{steps}], handsOn: {hands} }},"
        )
    return HEAD + "\n".join(lines) + "\n" + TAIL


if __name__ == "__main__":
    print(methods_text(), end="")
