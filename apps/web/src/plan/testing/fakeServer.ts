import type { ChangeResult, PlanView } from "@chronometra/contract";
import {
  applyChanges,
  checkWholePlan,
  fromBundle,
  PlanProblems,
  toBundle,
  type Change,
  type Plan,
} from "@chronometra/core";
import { CallFailed } from "../../shared/session/api.ts";
import { responseOf } from "../../testing/response.ts";
import { slipway, viewOf } from "./plans.ts";

interface Answer {
  readonly status: number;
  readonly body: unknown;
}

/**
 * What goes wrong with a call: nothing answers, or the answer is lost after the server has done its work, or the server
 * says so.
 */
export type Trouble = "unreachable" | "answerLost" | Answer;

/**
 * A server of one plan, as far as a session needs it; someone else can write to it too. It fails in the ways of a real
 * one.
 */
export class FakeServer {
  plan: Plan = fromBundle(slipway());
  revision = 1;
  readonly lists = new Map<
    number,
    { changes: readonly Change[]; inverse: readonly Change[]; list: string | null; by: string }
  >();
  /** What goes wrong with the next calls, reading or writing, in their order. */
  trouble: Trouble[] = [];
  /** Whether nothing gets through at all. */
  down = false;
  /** What every call is answered with, as where the plan is no longer theirs to see. */
  shut: Answer | null = null;
  calls = 0;
  /** What happens between the next answers and their arrival. */
  meanwhile: (() => void)[] = [];

  write(changes: readonly Change[], list: string | null = null, by = "Bo"): void {
    const applied = applyChanges(this.plan, changes);
    const problems = checkWholePlan(applied.plan);
    if (problems.length > 0) throw new PlanProblems(problems);
    this.plan = applied.plan;
    this.lists.set(++this.revision, { changes, inverse: applied.inverse!, list, by });
  }

  /** The plan as a call of its own, which can fail like any other. */
  view = async (): Promise<PlanView> => {
    await this.through();
    if (this.shut !== null)
      throw new CallFailed(this.shut.status, this.shut.body as { code: "notFound"; message: string });
    const view = viewOf(toBundle(this.plan), this.revision);
    this.meanwhile.shift()?.();
    return view;
  };

  private async through(): Promise<void> {
    this.calls++;
    if (this.down) throw new CallFailed(0, { code: "internal", message: "The server cannot be reached." });
  }

  private since(revision: number, until = Infinity): Change[] {
    return [...this.lists].filter(([each]) => each > revision && each <= until).flatMap(([, { changes }]) => changes);
  }

  private store(address: string, body: { revision: number; changes?: Change[]; list: string }): Answer {
    const before = [...this.lists].find(([, { list }]) => list === body.list);
    const undo = address.endsWith("/undo");
    const seen = undo ? (before?.[0] ?? this.revision + 1) - 1 : body.revision;
    // What is taken back clashes with what others have written since; one's own is taken back in its order.
    const later = [...this.lists]
      .filter(([each, { by }]) => (undo ? each > body.revision && by !== "me" : each > seen))
      .flatMap(([, { changes }]) => changes);
    const names = new Set(
      later.flatMap((change) => ("activity" in change && change.type === "setName" ? [change.activity] : [])),
    );
    const asked = undo ? (this.lists.get(body.revision)?.inverse ?? []) : (body.changes ?? []);
    const clash = asked.find((change) => change.type === "setName" && names.has(change.activity));
    if (before === undefined && clash !== undefined)
      return {
        status: 409,
        body: { code: "conflict", message: "Someone else changed the same thing meanwhile.", clashes: [] },
      };
    try {
      if (before === undefined)
        this.write(undo ? this.lists.get(body.revision)!.inverse : body.changes!, body.list, "me");
    } catch (error) {
      if (error instanceof PlanProblems) return { status: 409, body: { code: "conflict", message: error.message } };
      throw error;
    }
    const revision = before?.[0] ?? this.revision;
    const changes = this.since(seen, revision);
    const result: ChangeResult = { revision, undoable: true, changes, merged: revision - seen - 1, by: ["Bo"] };
    return { status: 200, body: result };
  }

  private answer(address: string, body: { revision: number; changes?: Change[]; list: string }): Answer {
    const since = /\/changes\/(\d+)$/.exec(address);
    if (since === null) return this.store(address, body);
    const by = [...new Set([...this.lists].filter(([each]) => each > Number(since[1])).map(([, list]) => list.by))];
    return { status: 200, body: { revision: this.revision, changes: this.since(Number(since[1])), by } };
  }

  fetch = async (address: string, init: { body?: string }): Promise<Response> => {
    await this.through().catch(() => {
      throw new TypeError("network");
    });
    const trouble = this.trouble.shift();
    if (trouble === "unreachable") throw new TypeError("network");
    if (typeof trouble === "object") return responseOf(trouble.status, trouble.body);
    const { status, body } = this.shut ?? this.answer(address, JSON.parse(init.body ?? "null") as never);
    this.meanwhile.shift()?.();
    if (trouble === "answerLost") throw new TypeError("network");
    return responseOf(status, body);
  };
}
