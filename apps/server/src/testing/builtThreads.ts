import { pathToFileURL } from "node:url";
import { join } from "node:path";
import { runBuilt } from "../shared/workers.ts";

// Where all is built anyway, threads run that; by hand, they run the sources as they are now.
if (process.env["CHRONOMETRA_TEST_SERVER"] === "built") runBuilt(pathToFileURL(`${join(__dirname, "../../dist")}/`));
