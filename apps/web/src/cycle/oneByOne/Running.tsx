/** How far something is that is done to projects one by one, and what stops it. */
export function Running({ words, done, of, onStop }: { words: string; done: number; of: number; onStop: () => void }) {
  return (
    <div className="flex items-center gap-3 text-sm" role="status">
      <progress className="h-2 w-48 accent-(--color-accent)" value={done} max={of} aria-label={words} />
      <span>
        {words}: {done} of {of}
      </span>
      <button type="button" className="btn btn-sm" onClick={onStop}>
        Stop
      </button>
    </div>
  );
}
