/** What each desk is for, its keys and its words, as the help page says it. */

export interface Help {
  title: string;
  for: string;
  keys: [string, string][];
  words: [string, string][];
}

const EVERYWHERE: [string, string][] = [
  ["/", "go to a battery: type its tag, or scan it"],
  ["C", "counter"],
  ["=", "the charge rack"],
  ["+", "goods"],
  ["R", "records"],
  ["B", "the check of the battery in hand"],
  ["M", "what replaces it; once more, or with none in hand: what fits a car"],
  ["W", "its warranty"],
  ["I", "its life"],
  ["?", "this page"],
];

const HELP: Record<string, Help> = {
  counter: {
    title: "Counter",
    for: "A battery is taken in here. Rated figure first, then whose it is and what is wrong; it gets a tag and goes to its check.",
    keys: [
      ["↵", "take it in"],
      ["Tab", "on to the next"],
    ],
    words: [
      ["rated figure", "the amps printed on the label; its scale is the word beside it"],
      ["copper words", "what is usually right; touch one to change it"],
    ],
  },
  check: {
    title: "Check",
    for: "One battery is read and judged here. The rung that is due stands open; the vane turns as you type.",
    keys: [
      ["L E V G", "look, leakage, volts, cells"],
      ["T P F K", "tester, pull, fixed load, crank"],
      ["H D A ⇧D", "charge, stand, the car, reserve"],
      ["↵", "keep what is typed"],
      ["Z", "undo the last entry"],
      ["N", "the next step"],
      ["S U", "slip, put it somewhere"],
      ["O Q X Y J ⇧", "a word of the open rung, by the letter it shows"],
    ],
    words: [
      ["feather", "one reading: its length is its weight, it points away from what it speaks for"],
      ["wedge", "how sure: narrow when the evidence agrees"],
      ["fell off", "a reading that does not count, with the reason"],
      ["sound, after", "healthy, once the jobs below it are done; touch one to see how, and to mark it done"],
      ["and more…", "words that are rarely asked for, folded"],
    ],
  },
  rack: {
    title: "Charge rack",
    for: "Every battery stands where it is due: what touches the copper post needs a hand. Left the same in words, each with its one action; the plan is made anew after everything that is done.",
    keys: [
      ["N", "the next thing to do"],
      ["↑ ↓", "the battery in focus onto the board above or below"],
      ["↵", "its settings, its promise, where else it may hang"],
    ],
    words: [
      ["wedge", "the charge that is still missing"],
      ["dashed", "planned; a solid case hangs there"],
      ["flag", "a promise; plum where the battery is behind it"],
      ["copper dot", "set there by hand: the plan leaves it"],
      ["off early", "taken off before it was full: it says what that is worth"],
    ],
  },
  equipment: {
    title: "Book of equipment",
    for: "What the shop charges, measures and pulls with. A reading is held against the tool it was made with; one that is out of order is not asked for.",
    keys: [["↵", "write it"]],
    words: [
      ["due", "its check; what is read with it says so until it is checked again"],
      ["somebody by it", "the charger does not limit itself: it does not run while nobody is in"],
    ],
  },
  match: {
    title: "Match",
    for: "Say what is known: a car, a size, a code, the tape, the owner's words. What they ask together is held against what we have; where they differ, it says who wins.",
    keys: [["M", "with no battery: type a car"]],
    words: [
      ["near", "it fits, but something must change: the list says what, in millimetres"],
      ["stricter", "asks for more than what wins"],
    ],
  },
  goods: {
    title: "Goods",
    for: "What stands on the shelf and what wants a hand: volts to be read, charges, pieces that stood too long. Prices, orders, suppliers, and lists in and out.",
    keys: [],
    words: [
      ["priced down", "it stood long without a charge, and costs less"],
      ["set aside", "not sold any more"],
    ],
  },
  house: {
    title: "The house",
    for: "The shop itself: its name, money and units, who works in it, what is still missing for the next piece of work, and everything that was changed.",
    keys: [],
    words: [
      ["edition", "terms from a day on; what was sold before keeps its own"],
      ["lead", "changes rules, prices and counter hands, and lifts waits"],
      ["owner", "also says who leads"],
    ],
  },
  fitting: {
    title: "Fitting",
    for: "What is done to fit this battery into this car, in order. What is read here starts the new battery's record.",
    keys: [],
    words: [["deposit", "goes back when the old one is booked in"]],
  },
  warranty: {
    title: "Warranty",
    for: "What our terms give for this battery, step by step, and the claim.",
    keys: [["↵", "write the claim"]],
    words: [["pro rata", "a credit for the months that are left"]],
  },
  life: {
    title: "Life",
    for: "Everything kept of one battery, corrections included.",
    keys: [],
    words: [["struck through", "corrected later, or taken back"]],
  },
  records: {
    title: "Records",
    for: "Past checks, found by tag, line, serial, name, phone, plate or car.",
    keys: [],
    words: [["visit", "a battery from take-in until it leaves the house"]],
  },
  customers: {
    title: "Customers",
    for: "One person however often they were written in: found by name, phone, plate, car or the serial of a battery, with their cars and batteries.",
    keys: [],
    words: [
      ["the same", "two entries become one person; they can be taken apart again"],
      ["forgotten", "name, phone and plate are gone everywhere; what was measured stays"],
    ],
  },
  rules: {
    title: "House rules",
    for: "Every figure the judgement rests on, with its source. A lead changes them; each version stays readable.",
    keys: [],
    words: [["standing", "published, common practice, or from memory"]],
  },
};

/** The help of a desk, with the keys that work everywhere. */
export function helpOf(desk: string): Help {
  const found = HELP[desk === "take-in" ? "counter" : desk] ?? HELP["counter"];
  if (!found) throw new Error("no help");
  return { ...found, keys: [...found.keys, ...EVERYWHERE] };
}
