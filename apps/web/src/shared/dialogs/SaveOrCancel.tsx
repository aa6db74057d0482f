interface Props {
  /** Why it cannot be, as the last try was told. */
  readonly fault: string | null;
  readonly isReady: boolean;
  /** What is done. */
  readonly words?: string;
  readonly onClose: () => void;
}

/** The end of a form in a dialog: what is wrong, and the two ways out. */
export const SaveOrCancel = ({ fault, isReady, words = "Save", onClose }: Props) => (
  <>
    {fault !== null && (
      <p role="alert" className="adverse text-sm">
        {fault}
      </p>
    )}
    <div className="flex justify-end gap-2">
      <button type="button" className="btn btn-sm" onClick={onClose}>
        Cancel
      </button>
      <button className="btn btn-primary btn-sm" disabled={!isReady}>
        {words}
      </button>
    </div>
  </>
);
