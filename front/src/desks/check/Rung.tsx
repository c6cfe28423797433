/** One rung of the check: a quiet line when it is not due, open when it is, a line with its figure when it is done. */
import { memo, useLayoutEffect, useRef, type ReactNode } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Button, Key_ } from "../../kit/parts";
import { afterPress } from "../../kit/press";
import { timeOf } from "../../kit/words";
import type { Schema } from "../../api/client";
import type { Standing } from "./drafts";

const Box = styled.section<{ $open: boolean; $done: boolean }>`
  outline: none;
  border-radius: 10px;
  border: ${({ $open, $done }) => ($open ? "2px solid var(--copper)" : $done ? "1.5px solid var(--line)" : "1.5px solid transparent")};
  background: ${({ $open, $done }) => ($open || $done ? "var(--sheet)" : "transparent")};
`;
const Line = styled.div`
  display: grid;
  grid-template-columns: 124px 1fr auto;
  gap: 10px;
  align-items: center;
  min-height: 46px;
  padding: 0 6px 0 12px;
`;
const Title = styled(AriaButton)`
  display: grid;
  grid-template-columns: 28px 86px;
  gap: 10px;
  align-items: center;
  min-height: 46px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  text-align: left;
  b {
    font-size: 17px;
    font-weight: 750;
    text-align: left;
  }
  &[data-focus-visible] kbd {
    outline: 3px solid var(--copper);
    outline-offset: 2px;
  }
`;
const Says = styled.div`
  min-width: 0;
  font-size: 15px;
  line-height: 1.25;
`;
const Aside = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--soft);
  font-size: 13.5px;
  text-align: right;
`;
const Small = styled(Button)`
  min-height: 44px;
  padding: 4px 10px;
  font-size: 14px;
  border-color: var(--line);
  font-weight: 550;
`;
const Inside = styled.div`
  padding: 2px 14px 14px;
  display: grid;
  gap: 10px;
`;

/** How a finding stands, as a shape and a word. */
function Verdict({ finding }: { finding: Schema["Finding"] | undefined }) {
  if (!finding) return null;
  const word = { counts: "counts", doubtful: "doubtful", dropped: "fell off" }[finding.status];
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" role="img" aria-label={word}>
      {finding.status === "counts" && <path d="M3 10 l5 5 l9 -11" fill="none" stroke="var(--sound)" strokeWidth="3" />}
      {finding.status === "doubtful" && (
        <path d="M4 16 L16 4" stroke="var(--doubt)" strokeWidth="3" strokeDasharray="4 3" />
      )}
      {finding.status === "dropped" && (
        <path d="M10 3 V15 M4 10 l6 6 l6 -6" fill="none" stroke="var(--soft)" strokeWidth="2.5" />
      )}
    </svg>
  );
}

interface Props {
  letter: string;
  title: string;
  open: boolean;
  onOpen: (how: "again" | "correct" | "open" | "close") => void;
  onLeave: () => void;
  quiet: string;
  standing: Standing | undefined;
  summary: ReactNode;
  finding: Schema["Finding"] | undefined;
  /** What one press can say without opening the rung. */
  quick?: readonly [string, () => void];
  children: ReactNode;
}

/** A closed rung is drawn anew only when what it shows changes: its callbacks reach through references. */
const sameWhileClosed = (before: Props, after: Props) =>
  !before.open &&
  !after.open &&
  before.standing === after.standing &&
  before.quiet === after.quiet &&
  before.finding?.status === after.finding?.status &&
  (before.quick === undefined) === (after.quick === undefined);

export const Rung = memo(function Rung({
  letter,
  title,
  open,
  onOpen,
  onLeave,
  quiet,
  standing,
  summary,
  finding,
  quick,
  children,
}: Props) {
  const done = standing !== undefined && !standing.refused;
  const box = useRef<HTMLElement>(null);
  // Before it is painted, and never later: what moves under a finger is not what was touched.
  useLayoutEffect(() => {
    if (open) box.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  return (
    <Box
      ref={box}
      $open={open}
      $done={done}
      aria-label={title}
      data-rung={title}
      tabIndex={-1}
      onBlur={(event) => {
        const { currentTarget, relatedTarget: next } = event;
        if (!open || currentTarget.contains(next)) return;
        // A rung that closes moves those below it: one that is being pressed stays where it is until the press is heard.
        if (next instanceof Element && next.closest("[data-rung]")) afterPress(onLeave);
        else onLeave();
      }}
    >
      <Line>
        <Title onPress={() => onOpen(open ? "close" : done ? "correct" : "open")} aria-expanded={open}>
          <Key_>{letter}</Key_>
          <b>{title}</b>
        </Title>
        <Says>{done && !open ? summary : open ? "" : <span style={{ color: "var(--soft)" }}>{quiet}</span>}</Says>
        <Aside>
          {quick && !open && <Small onPress={quick[1]}>{quick[0]}</Small>}
          {done && !open && (
            <>
              <Verdict finding={finding} />
              <span>
                {standing.keptAt ? (
                  <>kept {timeOf(standing.keptAt)}</>
                ) : (
                  <b style={{ color: "var(--copper)" }}>not sent yet</b>
                )}
              </span>
              <Small onPress={() => onOpen("correct")} aria-label={`Correct ${title}`}>
                correct
              </Small>
              <Small onPress={() => onOpen("again")} aria-label={`${title} again`}>
                again
              </Small>
            </>
          )}
        </Aside>
      </Line>
      {open && <Inside>{children}</Inside>}
    </Box>
  );
}, sameWhileClosed);
