/** What waits to be sent, whose it is, and what was refused with the server's reason: to be gone to, or thrown away. */
import { Button as AriaButton, Dialog, DialogTrigger, Link, Popover } from "react-aria-components";
import styled from "styled-components";
import { useLine } from "./line";
import { discard, mineOf, standByTime, useWaiting, type Waiting } from "./outbox";
import { Button, touchLink } from "./parts";
import { KIND_WORDS, timeOf } from "./words";

const Says = styled(AriaButton)`
  min-height: 44px;
  padding: 0 8px;
  border: none;
  background: none;
  color: var(--copper);
  font-weight: 700;
  cursor: pointer;
  &[data-refused="true"] {
    color: var(--failed);
  }
`;
const Sheet = styled(Popover)`
  width: 420px;
  max-height: 70vh;
  overflow: auto;
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--rule);
  border-radius: 10px;
  padding: 16px 20px;
`;
const One = styled.li`
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  p {
    color: var(--failed);
    font-weight: 600;
  }
`;
const Acts = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin-top: 4px;
  a {
    ${touchLink}
  }
`;
const Away = styled.p`
  padding: 6px 18px;
  background: var(--failed);
  color: var(--on-ink);
  font-weight: 650;
`;

/** A strip across the page while the line is down. */
export function LineStrip() {
  const away = useLine();
  return <div>{away && <Away role="status">{away}</Away>}</div>;
}

/** Why a reading was refused, in one line. */
export const reasonOf = (entry: Waiting) => entry.problem?.errors[0]?.message ?? entry.problem?.message ?? "";

export function WaitingSheet() {
  const all = useWaiting();
  const mine = mineOf(all);
  const refused = mine.filter((entry) => entry.problem);
  const others = all.length - mine.length;
  const words = [
    refused.length ? `${refused.length} refused` : "",
    mine.length > refused.length ? `${mine.length - refused.length} not sent yet` : "",
    others ? `${others} wait for others` : "",
  ].filter(Boolean);
  return (
    <>
      {words.length > 0 && (
        <DialogTrigger>
          <Says data-refused={refused.length > 0} aria-live="polite">
            {words.join(", ")}
          </Says>
          <Sheet placement="bottom end">
            <Dialog aria-label="What waits to be sent">
              <strong>What waits to be sent</strong>
              <ul>
                {mine.map((entry) => (
                  <Mine key={entry.id} entry={entry} />
                ))}
                {[...new Set(all.filter((entry) => !mine.includes(entry)).map((entry) => entry.who))].map((who) => (
                  <One key={who}>
                    What {who} typed is sent when {who} signs in here again.
                  </One>
                ))}
              </ul>
            </Dialog>
          </Sheet>
        </DialogTrigger>
      )}
    </>
  );
}

function Mine({ entry }: { entry: Waiting }) {
  return (
    <One>
      {KIND_WORDS[entry.reading.kind ?? "look"]} of {entry.tag}, {timeOf(entry.reading.taken_at)}
      {entry.problem && <p>Not kept: {reasonOf(entry)}</p>}
      <Acts>
        <Link href={`/check/${entry.tag}`}>Go to {entry.tag}</Link>
        {entry.problem && asksForTime(entry) && <Button onPress={() => standByTime(entry)}>It was taken then</Button>}
        {entry.problem && <Button onPress={() => discard(entry.id)}>Throw it away</Button>}
      </Acts>
    </One>
  );
}

/** The server asks whether it was really taken so long ago; a clock that runs ahead is no question. */
export const asksForTime = (entry: Waiting) =>
  entry.problem?.errors.some((fault) => fault.path === "taken_at" && fault.message.endsWith("type it anew")) ?? false;
