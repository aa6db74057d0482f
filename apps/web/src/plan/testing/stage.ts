import { computePlan, toBundle } from "@chronometra/core";
import { memoryKeeper, type Keeper } from "../engine/session/outbox.ts";
import { layOutSheet } from "../engine/layOutSheet.ts";
import { PlanEngine } from "../engine/planEngine.ts";
import { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet } from "../engine/sheet.ts";
import { livePlan } from "../engine/session/store.ts";
import { FakeServer } from "./fakeServer.ts";

/** A plan on a server, and one person's session on it; another each time a test begins. */
export const stage = {
  server: new FakeServer(),
  keeper: memoryKeeper() as Keeper,
  session: null as unknown as PlanSession,

  async open(): Promise<PlanSession> {
    const { server, keeper } = this;
    const opened = new PlanSession({ store: livePlan("p"), engine: new PlanEngine(), fetchPlan: server.view, keeper });
    await opened.open();
    return opened;
  },

  /** All anew, with nothing kept. */
  async set(): Promise<void> {
    this.server = new FakeServer();
    this.keeper = memoryKeeper();
    globalThis.fetch = ((address: string, init: { body?: string }) => this.server.fetch(address, init)) as typeof fetch;
    this.session = await this.open();
  },

  /** Waits until something holds. */
  async until(holds: () => boolean): Promise<void> {
    for (let i = 0; i < 400 && !holds(); i++) await new Promise((resolve) => setTimeout(resolve, 1));
    expect(holds()).toBe(true);
  },

  async settled(): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, 1));
    await this.until(() => this.session.snapshot().saving === 0);
  },

  /** What the server would show. */
  asServer(): Sheet {
    const plan = toBundle(this.server.plan);
    return layOutSheet(this.server.plan, plan, computePlan(plan));
  },
};

beforeEach(() => stage.set());
afterEach(() => stage.session.end());
