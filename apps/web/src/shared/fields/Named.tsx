import type { ReactNode } from "react";

/** A label beside what it names. */
export const Named = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex items-baseline gap-3 py-1">
    <span className="muted w-36 shrink-0 text-sm">{name}</span>
    <span className="min-w-0">{children}</span>
  </div>
);
