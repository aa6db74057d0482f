import { existsSync } from "node:fs";
import { join } from "node:path";
import { randomBytes } from "node:crypto";
import compression from "compression";
import express, { type Express, type Request, type Response } from "express";
import { rateLimit } from "express-rate-limit";
import session from "express-session";
import helmet from "helmet";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import type { DataSource } from "typeorm";
import type { EndpointKey } from "@chronometra/contract";
import { accessRoutes } from "./access/accessRoutes.ts";
import { AttemptStore } from "./access/attemptStore.ts";
import { SESSION_MILLISECONDS, SessionStore } from "./access/sessionStore.ts";
import { approveRoutes } from "./approve/approveRoutes.ts";
import { watchRoutes } from "./watch/watchRoutes.ts";
import { whatIfRoutes } from "./approve/whatIfRoutes.ts";
import { collectRoutes } from "./collect/collectRoutes.ts";
import { outsideRoutes } from "./collect/outside/outsideRoutes.ts";
import { cycleRoutes } from "./cycle/cycleRoutes.ts";
import { exchangeRoutes } from "./exchange/exchangeRoutes.ts";
import { datesRoutes } from "./dates/datesRoutes.ts";
import { loadRoutes } from "./load/loadRoutes.ts";
import { lookRoutes } from "./look/lookRoutes.ts";
import { newsRoutes } from "./plan/newsRoutes.ts";
import { PlanNewsDesk, sweepPresence } from "./plan/planNews.ts";
import { planRoutes } from "./plan/planRoutes.ts";
import { preferenceRoutes } from "./access/preferenceRoutes.ts";
import { resourceRoutes } from "./resources/resourceRoutes.ts";
import { Post, type PostOptions } from "./tell/post.ts";
import { tellRoutes } from "./tell/tellRoutes.ts";
import { chancesRoutes } from "./chances/chancesRoutes.ts";
import { qualityRoutes } from "./quality/qualityRoutes.ts";
import { portfolioRoutes } from "./portfolio/portfolioRoutes.ts";
import { Failure } from "./shared/failure.ts";
import { serve, tellFailure, type Serving } from "./shared/http.ts";
import { openApiDocument } from "./shared/openapi.ts";

export interface AppOptions {
  readonly database: DataSource;
  readonly logger: Logger;
  /** The built web client; left out where only the interface is served. */
  readonly webFolder?: string;
  /** Failed sign-ins allowed from one address in a quarter of an hour. */
  readonly signInAttempts?: number;
  readonly mail?: PostOptions;
}

const SIGN_IN_WINDOW = 15 * 60 * 1000;

const security = helmet({
  contentSecurityPolicy: {
    useDefaults: true,
    directives: { "default-src": ["'self'"], "script-src": ["'self'"], "style-src": ["'self'", "'unsafe-inline'"], "img-src": ["'self'", "data:", "blob:"], "font-src": ["'self'", "data:"], "upgrade-insecure-requests": null },
  },
  // The app may be served without TLS inside an organisation; whoever puts TLS in front adds this there.
  strictTransportSecurity: false,
});

/** The whole application, ready to listen; what was registered, for tests; what removes sessions and counts that have run out, and what ends open streams. */
export function createApp(options: AppOptions): { app: Express; served: Set<EndpointKey>; sweep: () => Promise<void>; close: () => void } {
  const { database } = options;
  const app = express();
  const store = new SessionStore(database);
  app.set("trust proxy", "loopback");
  app.disable("x-powered-by");
  app.use(pinoHttp({ logger: options.logger, autoLogging: false }));
  app.use(security, compression());
  const api = express.Router();
  const attempts = new AttemptStore(database);
  const signInLimit = rateLimit({
    windowMs: SIGN_IN_WINDOW,
    store: attempts,
    limit: options.signInAttempts ?? 20,
    skipSuccessfulRequests: true,
    standardHeaders: true,
    legacyHeaders: false,
    handler: () => {
      throw new Failure("tooMany", "Too many failed sign-ins from here; wait a quarter of an hour.");
    },
  });
  api.use(
    "/api",
    session({
      name: "chronometra",
      secret: sessionSecret(),
      store,
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: "lax", secure: "auto", maxAge: SESSION_MILLISECONDS },
    }),
  );
  api.post("/api/session", signInLimit);
  api.use("/api", express.json({ limit: "20mb" }));
  const news = new PlanNewsDesk(database, options.logger);
  const post = new Post(options.mail ?? {});
  const serving: Serving = { router: api, database, news, post, served: new Set() };
  for (const routes of [accessRoutes, preferenceRoutes, portfolioRoutes, planRoutes, newsRoutes, resourceRoutes, approveRoutes, whatIfRoutes, collectRoutes, outsideRoutes, lookRoutes, datesRoutes, qualityRoutes, chancesRoutes, loadRoutes, cycleRoutes, exchangeRoutes, tellRoutes, watchRoutes]) routes(serving);
  serve(serving, "GET /api/openapi.json", () => openApiDocument());
  api.use("/api", () => {
    throw new Failure("notFound");
  });
  app.use(api);
  if (options.webFolder !== undefined && existsSync(options.webFolder)) serveWeb(app, options.webFolder);
  app.use(tellFailure);
  const sweep = async (): Promise<void> => void (await Promise.all([store.sweep(), attempts.sweep(), sweepPresence(database)]));
  return { app, served: serving.served, sweep, close: () => (news.close(), post.close()) };
}

/** Signs session ids. Another server beside this one needs the same; alone, a fresh one would only end sessions at a restart. */
function sessionSecret(): string {
  return process.env["CHRONOMETRA_SECRET"] ?? randomBytes(32).toString("hex");
}

function serveWeb(app: Express, folder: string): void {
  app.use(express.static(folder, { index: false, setHeaders: (response, path) => void (/[\\/]assets[\\/]/.test(path) && response.setHeader("Cache-Control", "public, max-age=31536000, immutable")) }));
  app.get("/{*splat}", (_request: Request, response: Response) => response.sendFile(join(folder, "index.html"), { headers: { "Cache-Control": "no-cache" } }));
}
