/** Which properties of an answer are sentences of the product, in English: they are read in the language of the page.
 * What somebody typed, names and numbers, stands as it is. A test holds the list against what the server says. */
import { language, say } from "./catalogue";

const SENTENCES = new Set([
  "asks", "asked_by", "change", "counted_from", "counted_from_what", "definition", "detail", "found", "headline", "how", "jobs_done",
  "lighter_duty", "limit_text", "look_at_the_car_why", "needs", "next_for_customer", "night", "no_stock", "not_measured", "notes",
  "problem", "rated_words", "rating_words", "reading_text", "rules_by", "rules_name", "said", "says", "sentences", "set_words", "short", "figures",
  "sureness", "tax_words", "text", "till_line", "to_do", "unit", "source", "what", "what_to_enter", "when", "why", "why_not",
  "without_it", "words", "first", "changed_why", "years",
]); // prettier-ignore
/** Where one word alone is said too; elsewhere it is a key. */
const WORDS = new Set([
  "sureness", "short", "counted_from_what", "words", "limit_text", "reading_text", "headline", "text", "jobs_done", "counted_from",
  "set_words", "detail", "unit", "figures", "found", "unit", "rules_by", "why", "why_not",
]); // prettier-ignore
/** Everything inside these is said. */
const WHOLE = new Set(["questions", "believes", "cautions"]);

/** An answer with its sentences in the language of the page. */
export function spoken<Data>(data: Data): Data {
  return language() === "en" ? data : (said(data, "", false) as Data);
}

const isSaid = (name: string, value: string) => SENTENCES.has(name) && (WORDS.has(name) || value.includes(" "));

function said(value: unknown, name: string, isWhole: boolean): unknown {
  if (typeof value === "string") return isWhole || isSaid(name, value) ? say(value) : value;
  if (Array.isArray(value)) return value.map((one) => said(one, name, isWhole));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([inner, one]) => [inner, said(one, inner, isWhole || WHOLE.has(inner))]),
  );
}
