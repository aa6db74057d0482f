import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { fieldsOf } from "../shared/fields/fieldsOf.ts";
import { useMe } from "../shared/session/session.ts";
import { setTheme, useTheme } from "../shared/charts/theme.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords } from "../shared/words/words.ts";
import { TellingPart } from "../tell/TellingPart.tsx";

function OwnPassword() {
  const form = useRef<HTMLFormElement>(null);
  const change = useMutation({
    mutationFn: (body: { current: string; next: string }) => call("PUT /api/session/password", { body }),
    onSuccess: () => {
      toast("Your password is changed. Other places where you were signed in are signed out.");
      location.reload();
    },
    onSettled: () => form.current?.reset(),
  });
  return (
    <section>
      <h2 className="text-base">Your password</h2>
      <form
        ref={form}
        className="mt-1 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          const fields = fieldsOf(event);
          change.mutate({ current: fields.text("current"), next: fields.text("next") });
        }}
      >
        <label className="flex flex-col text-sm">
          Current password
          <input className="input input-sm" type="password" autoComplete="current-password" required name="current" />
        </label>
        <label className="flex flex-col text-sm">
          New, 10 characters or more
          <input
            className="input input-sm"
            type="password"
            autoComplete="new-password"
            minLength={10}
            required
            name="next"
          />
        </label>
        <button className="btn btn-sm" disabled={change.isPending}>
          Change password
        </button>
      </form>
      {change.error !== null && <Failure error={change.error} />}
    </section>
  );
}

function Looks() {
  const theme = useTheme();
  return (
    <section>
      <h2 className="text-base">Appearance</h2>
      <div role="radiogroup" aria-label="Appearance" className="mt-1 flex gap-4 text-sm">
        {(["enamel", "nightwatch"] as const).map((each) => (
          <label key={each} className="flex items-center gap-2">
            <input type="radio" name="theme" checked={theme === each} onChange={() => setTheme(each)} />{" "}
            {each === "enamel" ? "Light" : "Dark"}
          </label>
        ))}
      </div>
    </section>
  );
}

/** Where one's days begin and end: time is booked for those days, and "today" is theirs. */
function TimeZone() {
  const me = useMe();
  const client = useQueryClient();
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const zones = [...new Set([me.timeZone, here, ...Intl.supportedValuesOf("timeZone")])].sort();
  const change = useMutation({
    mutationFn: (timeZone: string) => call("PUT /api/session/time-zone", { body: { timeZone } }),
    onSuccess: async (_, timeZone) => {
      await client.invalidateQueries();
      toast(`Your days are those of ${timeZone}.`);
    },
  });
  return (
    <section>
      <h2 className="text-base">Your time zone</h2>
      <div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
        <select
          className="select select-sm"
          aria-label="Your time zone"
          value={me.timeZone}
          disabled={change.isPending}
          onChange={(event) => change.mutate(event.target.value)}
        >
          {zones.map((zone) => (
            <option key={zone} value={zone}>
              {zone.replaceAll("_", " ")}
            </option>
          ))}
        </select>
        <span>Today is {dateWords(todayHere())}.</span>
        {here !== me.timeZone && (
          <button type="button" className="btn btn-sm" disabled={change.isPending} onClick={() => change.mutate(here)}>
            Use {here.replaceAll("_", " ")}, where this browser is
          </button>
        )}
      </div>
      {change.error !== null && <Failure error={change.error} />}
    </section>
  );
}

/** One's own password, days and looks. */
export function SettingsPage() {
  return (
    <div className="page flex max-w-5xl flex-col gap-6">
      <h1 className="text-xl">Settings</h1>
      <OwnPassword />
      <TimeZone />
      <TellingPart />
      <Looks />
    </div>
  );
}
