// For mutating: the laws are tried on few cases, since each change that is made runs them anew.
const { join } = require("node:path");
const all = require(join(__dirname, "../node_modules/fast-check/lib/cjs/fast-check.js"));

const FEW = 55;
const assert = (property, how = {}) => all.assert(property, { ...how, numRuns: Math.min(FEW, how.numRuns ?? FEW) });
const few = { ...all.default, assert };
module.exports = { ...all, default: few, assert };
Object.defineProperty(module.exports, "__esModule", { value: true });
