import { Dialog } from "../../../shared/dialogs/Dialog.tsx";
import type { Asked } from "./useChartDrag.ts";

/** Asks whether a date wish that someone meant, its reason with it, is to go for one that was dragged. */
export function ReplaceWish({ asked, onKeep }: { asked: Asked; onKeep: () => void }) {
  return (
    <Dialog title="Replace the date wish?" onClose={onKeep}>
      <p>{asked.words}.</p>
      <p className="undecided">It takes the place of: {asked.replaces}</p>
      <div className="mt-3 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" onClick={onKeep}>
          Cancel
        </button>
        <button type="button" className="btn btn-sm" onClick={asked.put}>
          Replace it
        </button>
      </div>
    </Dialog>
  );
}
