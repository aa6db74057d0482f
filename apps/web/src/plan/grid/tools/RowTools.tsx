import type { Change } from "@chronometra/core";
import { Anchor, ArrowDown, ArrowUp, Indent, Outdent, Plus, Sailboat, Trash2 } from "lucide-react";
import { useState, type RefObject } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import type { Parking } from "../../engine/planEngine.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import { ParkDialog } from "../ParkDialog.tsx";
import type { Active } from "../PlanSheet.tsx";
import { ToolButton } from "../../../shared/fields/ToolButton.tsx";

const MOVES = [
  { verb: "outdent", words: "Out a level (Alt+,)", Icon: Outdent },
  { verb: "indent", words: "Below the row before (Alt+.)", Icon: Indent },
  { verb: "up", words: "Up (Alt+Up)", Icon: ArrowUp },
  { verb: "down", words: "Down (Alt+Down)", Icon: ArrowDown },
] as const;

interface Props {
  /** What is chosen at the moment a button is pressed. */
  readonly current: RefObject<Active | null>;
  /** Whether the row the keyboard stands on is parked. */
  readonly parked: boolean;
  readonly session: PlanSession;
}

/** Parks the chosen rows, or wakes them where all are parked; asks where chains would break. */
function Park({ current, parked, session }: Props) {
  const [asked, setAsked] = useState<Parking | null>(null);
  const make = async (changes: readonly Change[]): Promise<void> => {
    setAsked(null);
    const problems = await session.change(changes);
    if (problems !== null)
      toast.error(
        problems
          .map(({ row: id, message }) => `${id}: ${message}`)
          .slice(0, 3)
          .join("\n"),
      );
  };
  const begin = async (): Promise<void> => {
    const { row, work, block } = current.current!;
    const ids = work.topIdsIn(block);
    if (row?.parked === true) {
      const problems = await session.wake(ids);
      if (problems !== null) toast.error(problems[0]!.message);
      return;
    }
    const parking = await session.parking(ids);
    if (parking.chains.length > 0) setAsked(parking);
    else await make(parking.only);
  };
  const words = parked ? "Wake: let it count again" : "Park: keep it, and let it count for nothing";
  const Icon = parked ? Sailboat : Anchor;
  return (
    <>
      <ToolButton icon={Icon} name={words} onClick={() => void begin()} />
      {asked !== null && (
        <ParkDialog
          what="park"
          parking={asked}
          session={session}
          onChoose={(changes) => void make(changes)}
          onClose={() => setAsked(null)}
        />
      )}
    </>
  );
}

/** What can be done with the rows that are chosen. */
export function RowTools(props: Props) {
  const { current } = props;
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm"
        onClick={() => current.current!.work.insert(current.current!.block.rows.at(-1))}
        title="A new row (Ctrl+Enter)"
      >
        <Plus size={14} aria-hidden="true" /> Row
      </button>
      {MOVES.map(({ verb, words, Icon }) => (
        <ToolButton
          key={verb}
          icon={Icon}
          name={words}
          onClick={() =>
            void current.current!.work.arrange({ verb, ids: current.current!.work.idsIn(current.current!.block) })
          }
        />
      ))}
      <ToolButton
        icon={Trash2}
        name="Remove (Ctrl+Delete)"
        onClick={() => current.current!.work.remove(current.current!.block)}
      />
      <Park {...props} />
    </>
  );
}
