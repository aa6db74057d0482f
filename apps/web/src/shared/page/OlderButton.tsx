/** What a list can fetch more of. */
interface Paged {
  readonly hasNextPage: boolean;
  readonly isFetchingNextPage: boolean;
  readonly fetchNextPage: () => Promise<unknown>;
}

/** Below a list of which there is more: fetches what is older. */
export function OlderButton({ query }: { query: Paged }) {
  if (!query.hasNextPage) return null;
  return (
    <button
      type="button"
      className="btn btn-sm mt-2"
      disabled={query.isFetchingNextPage}
      onClick={() => void query.fetchNextPage()}
    >
      Older
    </button>
  );
}
