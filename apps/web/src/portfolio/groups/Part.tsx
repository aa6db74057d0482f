import type { ReactNode } from "react";

/** One of the things that are set up for all projects. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="max-w-2xl">
      <h2 className="pb-1 text-base">{title}</h2>
      {children}
    </section>
  );
}
