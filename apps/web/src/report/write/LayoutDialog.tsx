import { REPORT_SECTIONS, SECTION_WORDS, type ReportSection } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { ToolButton } from "../../shared/fields/ToolButton.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { holds, useMe } from "../../shared/session/session.ts";
import { reportLayoutQuery } from "../queries.ts";

/** Moves one part of a list by one place. */
export function movedBy<T>(list: readonly T[], at: number, by: -1 | 1): T[] {
  const next = [...list];
  const [each] = next.splice(at, 1);
  next.splice(at + by, 0, each!);
  return next;
}

interface Props {
  readonly of: string;
  readonly known: readonly ReportSection[];
  readonly from: string | null;
  readonly onClose: () => void;
}

function Layout({ of, known, from, onClose }: Props) {
  const client = useQueryClient();
  const [order, setOrder] = useState<readonly ReportSection[]>([
    ...known,
    ...REPORT_SECTIONS.filter((each) => !known.includes(each)),
  ]);
  const [shown, setShown] = useState<ReadonlySet<ReportSection>>(new Set(known));
  const write = useMutation({
    mutationFn: (sections: ReportSection[] | null) =>
      call("PUT /api/status-reports/:of/layout", { params: { of }, body: { sections } }),
    onSuccess: () => {
      toast("Reports that are issued from now on are laid out so.");
      void client.invalidateQueries({ queryKey: ["statusReport"] });
      onClose();
    },
  });
  const toggle = (section: ReportSection): void => {
    const next = new Set(shown);
    if (!next.delete(section)) next.add(section);
    setShown(next);
  };
  return (
    <Dialog title="Parts of the projects' reports" onClose={onClose}>
      <p className="muted text-sm">
        {from === "own"
          ? "Laid out here, for the projects of this group and the groups below it."
          : from === null
            ? "As it comes; no group says otherwise."
            : `As ${from} says.`}
      </p>
      <ol className="mt-2">
        {order.map((section, i) => (
          <li key={section} className="flex items-center gap-2">
            <label className="flex min-h-7 flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={shown.has(section)}
                onChange={() => toggle(section)}
              />
              {SECTION_WORDS[section]}
            </label>
            <ToolButton
              icon={ArrowUp}
              name={`${SECTION_WORDS[section]} earlier`}
              disabled={i === 0}
              onClick={() => setOrder(movedBy(order, i, -1))}
            />
            <ToolButton
              icon={ArrowDown}
              name={`${SECTION_WORDS[section]} later`}
              disabled={i === order.length - 1}
              onClick={() => setOrder(movedBy(order, i, 1))}
            />
          </li>
        ))}
      </ol>
      {shown.size === 0 && <p className="adverse text-sm">Select at least one part.</p>}
      {write.error !== null && <Failure error={write.error} />}
      <div className="mt-3 flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={write.isPending || shown.size === 0}
          onClick={() => write.mutate(order.filter((each) => shown.has(each)))}
        >
          Save
        </button>
        {from === "own" && (
          <button type="button" className="btn btn-sm" disabled={write.isPending} onClick={() => write.mutate(null)}>
            Take it from above
          </button>
        )}
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Dialog>
  );
}

/** Which parts the reports of a group's projects have, for a controller to lay out. */
export function LayoutDialog({ of }: { of: string }) {
  const [isOpen, setOpen] = useState(false);
  const layout = useQuery({ ...reportLayoutQuery(of), enabled: isOpen });
  if (!holds(useMe(), "controller")) return null;
  return (
    <>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
        Parts …
      </button>
      {isOpen && layout.data !== undefined && (
        <Layout of={of} known={layout.data.sections} from={layout.data.from} onClose={() => setOpen(false)} />
      )}
      {isOpen && layout.error !== null && <Failure error={layout.error} />}
    </>
  );
}
