import "../../shared/charts/withoutEval.ts";
import { expose } from "comlink";
import { PlanEngine } from "./planEngine.ts";

expose(new PlanEngine());
