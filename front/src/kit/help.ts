/** What each desk is for, its keys and its words, as the help page says it. */
import { t } from "../language/t";

export interface Help {
  title: string;
  for: string;
  keys: [string, string][];
  words: [string, string][];
}

const EVERYWHERE: [string, string][] = [
  ["/", t("go to a battery: type its tag, or scan it")],
  ["C", t("counter")],
  ["=", t("the charge rack")],
  ["+", t("goods")],
  ["R", t("records")],
  ["B", t("the check of the battery in hand")],
  ["M", t("what replaces it; once more, or with none in hand: what fits a car")],
  ["W", t("its warranty")],
  ["I", t("its life")],
  ["?", t("this page")],
];

const HELP: Record<string, Help> = {
  counter: {
    title: t("Counter"),
    for: t(
      "A battery is taken in here. Rated figure first, then whose it is and what is wrong; it gets a tag and goes to its check.",
    ),
    keys: [
      ["↵", t("take it in")],
      [t("Tab"), t("on to the next")],
    ],
    words: [
      [t("rated figure"), t("the amps printed on the label; its scale is the word beside it")],
      [t("copper words"), t("what is usually right; touch one to change it")],
    ],
  },
  check: {
    title: t("Check"),
    for: t("One battery is read and judged here. The rung that is due stands open; the vane turns as you type."),
    keys: [
      ["L E V G", t("look, leakage, volts, cells")],
      ["T P F K", t("tester, pull, fixed load, crank")],
      ["H D A ⇧D", t("charge, stand, the car, reserve")],
      ["↵", t("keep what is typed")],
      ["Z", t("undo the last entry")],
      ["N", t("the next step")],
      ["S U", t("slip, put it somewhere")],
      ["O Q X Y J ⇧", t("a word of the open rung, by the letter it shows")],
    ],
    words: [
      [t("feather"), t("one reading: its length is its weight, it points away from what it speaks for")],
      [t("wedge"), t("how sure: narrow when the evidence agrees")],
      [t("fell off"), t("a reading that does not count, with the reason")],
      [t("sound, after"), t("healthy, once the jobs below it are done; touch one to see how, and to mark it done")],
      [t("and more…"), t("words that are rarely asked for, folded")],
    ],
  },
  rack: {
    title: t("Charge rack"),
    for: t(
      "Every battery stands where it is due: what touches the copper post needs a hand. Left the same in words, each with its one action; the plan is made anew after everything that is done.",
    ),
    keys: [
      ["N", t("the next thing to do")],
      ["↑ ↓", t("the battery in focus onto the board above or below")],
      ["↵", t("its settings, its promise, where else it may hang")],
    ],
    words: [
      [t("wedge"), t("the charge that is still missing")],
      [t("dashed"), t("planned; a solid case hangs there")],
      [t("flag"), t("a promise; plum where the battery is behind it")],
      [t("copper dot"), t("set there by hand: the plan leaves it")],
      [t("off early"), t("taken off before it was full: it says what that is worth")],
    ],
  },
  equipment: {
    title: t("Book of equipment"),
    for: t(
      "What the shop charges, measures and pulls with. A reading is held against the tool it was made with; one that is out of order is not asked for.",
    ),
    keys: [["↵", t("write it")]],
    words: [
      [t("due"), t("its check; what is read with it says so until it is checked again")],
      [t("somebody by it"), t("the charger does not limit itself: it does not run while nobody is in")],
    ],
  },
  match: {
    title: t("Match"),
    for: t(
      "Say what is known: a car, a size, a code, the tape, the owner's words. What they ask together is held against what we have; where they differ, it says who wins.",
    ),
    keys: [["M", t("with no battery: type a car")]],
    words: [
      [t("near"), t("it fits, but something must change: the list says what, in millimetres")],
      [t("stricter"), t("asks for more than what wins")],
    ],
  },
  goods: {
    title: t("Goods"),
    for: t(
      "What stands on the shelf and what wants a hand: volts to be read, charges, pieces that stood too long. Prices, orders, suppliers, and lists in and out.",
    ),
    keys: [],
    words: [
      [t("priced down"), t("it stood long without a charge, and costs less")],
      [t("set aside"), t("not sold any more")],
    ],
  },
  house: {
    title: t("The house"),
    for: t(
      "The shop itself: its name, money and units, who works in it, what is still missing for the next piece of work, and everything that was changed.",
    ),
    keys: [],
    words: [
      [t("edition"), t("terms from a day on; what was sold before keeps its own")],
      [t("lead"), t("changes rules, prices and counter hands, and lifts waits")],
      [t("owner"), t("also says who leads, and opens other stores")],
    ],
  },
  fitting: {
    title: t("Fitting"),
    for: t(
      "What is done to fit this battery into this car, in order. What is read here starts the new battery's record.",
    ),
    keys: [],
    words: [[t("deposit"), t("goes back when the old one is booked in")]],
  },
  warranty: {
    title: t("Warranty"),
    for: t("What our terms give for this battery, step by step, and the claim."),
    keys: [["↵", t("write the claim")]],
    words: [[t("pro rata"), t("a credit for the months that are left")]],
  },
  life: {
    title: t("Life"),
    for: t("Everything kept of one battery, corrections included."),
    keys: [],
    words: [[t("struck through"), t("corrected later, or taken back")]],
  },
  records: {
    title: t("Records"),
    for: t("Past checks, found by tag, line, serial, name, phone, plate or car."),
    keys: [],
    words: [[t("visit"), t("a battery from take-in until it leaves the house")]],
  },
  customers: {
    title: t("Customers"),
    for: t(
      "One person however often they were written in: found by name, phone, plate, car or the serial of a battery, with their cars and batteries.",
    ),
    keys: [],
    words: [
      [t("the same"), t("two entries become one person; they can be taken apart again")],
      [t("forgotten"), t("name, phone and plate are gone everywhere; what was measured stays")],
    ],
  },
  rules: {
    title: t("House rules"),
    for: t("Every figure the judgement rests on, with its source. A lead changes them; each version stays readable."),
    keys: [],
    words: [[t("standing"), t("published, common practice, or from memory")]],
  },
};

/** The help of a desk, with the keys that work everywhere. */
export function helpOf(desk: string): Help {
  const page = HELP[desk === "take-in" ? "counter" : desk] ?? HELP["counter"];
  if (!page) throw new Error("no help");
  return { ...page, keys: [...page.keys, ...EVERYWHERE] };
}
