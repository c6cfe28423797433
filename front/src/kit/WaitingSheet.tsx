/** What waits to be sent, whose it is, and what was refused with the server's reason: to be gone to, or thrown away. */
import { Button as AriaButton, Dialog, DialogTrigger, Link, Popover } from "react-aria-components";
import styled from "styled-components";
import { useNavigate } from "react-router";
import { DraftAt } from "./drafts";
import { lastHeard, useLine } from "./line";
import {
  discard,
  LOOK_AGAIN,
  mineOf,
  standByLabel,
  standByTime,
  useSentLate,
  useWaiting,
  useWaitingTakeIns,
  type Waiting,
  type WaitingTakeIn,
} from "./outbox";
import { Button, touchLink } from "./parts";
import { tagged, useToTag } from "./toTag";
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

const Back = styled(Away)`
  background: var(--sound);
`;
const ToHang = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  padding: 4px 18px;
  border-bottom: 2px solid var(--copper);
  background: var(--copper-pale);
  b {
    font-size: 22px;
  }
  a {
    ${touchLink}
  }
`;
const readings = (count: number) => (count === 1 ? "One reading waits" : `${count} readings wait`);

/** A strip across the page while the line is down. */
export function LineStrip() {
  const away = useLine();
  const waits = mineOf(useWaiting()).filter((entry) => !entry.problem).length;
  const untagged = mineOf(useWaitingTakeIns()).filter((entry) => !entry.problem).length;
  const toTag = useToTag();
  const sent = useSentLate();
  const heard = lastHeard();
  if (away)
    return (
      <Away role="status">
        {away}. {heard && `The shelf and what is shown are as of ${timeOf(heard)}. `}
        {waits > 0 && `${readings(waits)} here to be sent. `}
        {untagged > 0 && `${untagged === 1 ? "One battery waits" : `${untagged} batteries wait`} for a tag.`}
      </Away>
    );
  return (
    <div>
      {sent > 0 && (
        <Back role="status">
          The server is back: {sent === 1 ? "one reading that waited was" : `${sent} readings that waited were`} sent,
          each once and in order.
        </Back>
      )}
      {toTag.map((one) => (
        <ToHang key={one.tag} role="status">
          <span>
            <b>{one.tag}</b> is the tag of {one.words || "a battery written in without the line"}: hang it on.
          </span>
          <Link href={`/check/${one.tag}`}>Go to {one.tag}</Link>
          <Button onPress={() => tagged(one.tag)}>It hangs</Button>
        </ToHang>
      ))}
    </div>
  );
}

/** Why a reading was refused, in one line. */
export const reasonOf = (entry: Waiting) => entry.problem?.errors[0]?.message ?? entry.problem?.message ?? "";

export function WaitingSheet() {
  const all = useWaiting();
  const allTakeIns = useWaitingTakeIns();
  const [mine, takeIns] = [mineOf(all), mineOf(allTakeIns)];
  const refused = [...mine, ...takeIns].filter((entry) => entry.problem).length;
  const unsent = mine.length + takeIns.length - refused;
  const others = all.length + allTakeIns.length - mine.length - takeIns.length;
  const words = [
    refused ? `${refused} refused` : "",
    unsent ? `${unsent} not sent yet` : "",
    others ? `${others} wait for others` : "",
  ].filter(Boolean);
  return (
    <>
      {words.length > 0 && (
        <DialogTrigger>
          <Says data-refused={refused > 0} aria-live="polite">
            {words.join(", ")}
          </Says>
          <Sheet placement="bottom end">
            <Dialog aria-label="What waits to be sent">
              <strong>What waits to be sent</strong>
              <ul>
                {takeIns.map((entry) => (
                  <MineTakeIn key={entry.id} entry={entry} />
                ))}
                {mine.map((entry) => (
                  <Mine key={entry.id} entry={entry} />
                ))}
                {othersOf([...all, ...allTakeIns], [...mine, ...takeIns]).map((who) => (
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

const othersOf = (all: (Waiting | WaitingTakeIn)[], mine: (Waiting | WaitingTakeIn)[]) => [
  ...new Set(all.filter((entry) => !mine.includes(entry)).map((entry) => entry.who)),
];

function MineTakeIn({ entry }: { entry: WaitingTakeIn }) {
  const navigate = useNavigate();
  const { takeIn, problem } = entry;
  const rating = takeIn.battery?.rating;
  const words = [
    takeIn.customer_name || takeIn.customer_plate,
    takeIn.battery?.line,
    rating && `${rating.amps} ${rating.scale}`,
  ];
  return (
    <One>
      Taken in: {words.filter(Boolean).join(", ") || "a battery"}
      {problem && <p>Not kept: {problem.errors[0]?.message ?? problem.message}</p>}
      {problem && (
        <Acts>
          {problem.message === LOOK_AGAIN && (
            <Button onPress={() => standByLabel(entry)}>It says so: take it as it is</Button>
          )}
          <Button
            onPress={() => {
              const paper = new DraftAt("take-in");
              for (const [name, value] of Object.entries(entry.typed)) paper.set(name, value);
              discard(entry.id);
              void navigate("/counter");
            }}
          >
            Mend it at the counter
          </Button>
          <Button onPress={() => discard(entry.id)}>Throw it away</Button>
        </Acts>
      )}
    </One>
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
