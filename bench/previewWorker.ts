import { PlanEngine } from "../apps/web/src/plan/engine/planEngine.ts";

const engine = new PlanEngine();
const worker = globalThis as unknown as {
  onmessage: (event: { data: { open?: never; effect?: never } }) => void;
  postMessage: (message: unknown) => void;
};

worker.onmessage = ({ data }) =>
  worker.postMessage(data.open !== undefined ? (engine.open(data.open), null) : engine.effect(data.effect!));
