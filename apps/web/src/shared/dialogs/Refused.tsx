/** Said to whoever followed a link to a page that is not theirs. */
export const Refused = ({ who }: { who: string }) => (
  <p className="page">This page is for {who}. Ask an administrator if it is to be yours.</p>
);
