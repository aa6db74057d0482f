import { NavLink, Outlet } from "react-router";

const PARTS = [
  { to: "/", name: "Projects" },
  { to: "/deadlines", name: "Deadlines" },
  { to: "/load", name: "Load" },
];

/** What one looks at across all projects. */
export function PortfolioFrame() {
  return (
    <div className="flex h-full min-h-0 flex-col">
      <nav aria-label="Portfolio" className="flex gap-5 overflow-x-auto border-b rule px-5">
        {PARTS.map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) =>
              `border-b-2 py-1 whitespace-nowrap ${isActive ? "border-accent font-semibold" : "border-transparent muted hover:border-base-300"}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="min-h-0 flex-1 overflow-auto">
        <Outlet />
      </div>
    </div>
  );
}
