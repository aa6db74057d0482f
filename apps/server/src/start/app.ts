import { existsSync } from "node:fs";
import { randomBytes, randomUUID } from "node:crypto";
import compression from "compression";
import express, { type Express } from "express";
import session from "express-session";
import helmet from "helmet";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import type { DataSource } from "typeorm";
import type { EndpointKey } from "@chronometra/contract";
import { accessRoutes } from "../access/accessRoutes.ts";
import { tokenRoutes } from "../feeds/tokenRoutes.ts";
import { hookRoutes } from "../hooks/hookRoutes.ts";
import { HookSender, sweepCalls, type SenderOptions } from "../hooks/sendCalls.ts";
import { feedRoutes } from "../feeds/feedRoutes.ts";
import { sweepMisses } from "../access/misses.ts";
import { SESSION_MILLISECONDS, SessionStore } from "../access/sessionStore.ts";
import { approveRoutes } from "../approve/approveRoutes.ts";
import { watchRoutes } from "../watch/watchRoutes.ts";
import { whatIfRoutes } from "../approve/whatIfRoutes.ts";
import { bundleOf } from "../collect/kept/bundleOf.ts";
import { arriveRecord } from "../record/arriveRecord.ts";
import { recordOf } from "../record/leaveRecord.ts";
import { collectRoutes } from "../collect/collectRoutes.ts";
import { outsideRoutes } from "../collect/outside/outsideRoutes.ts";
import { cycleRoutes } from "../cycle/cycleRoutes.ts";
import { exchangeRoutes } from "../exchange/exchangeRoutes.ts";
import { documentRoutes } from "../documents/documentRoutes.ts";
import { sweepParts } from "../documents/fileParts.ts";
import { sweepDrafts } from "../exchange/importService.ts";
import { datesRoutes } from "../dates/datesRoutes.ts";
import { findRoutes } from "../find/findRoutes.ts";
import { loadRoutes } from "../load/loadRoutes.ts";
import { boxRoutes } from "../boxes/boxRoutes.ts";
import { lookRoutes } from "../look/lookRoutes.ts";
import { newsRoutes } from "../plan/news/newsRoutes.ts";
import { PlanNewsDesk } from "../plan/news/planNews.ts";
import { sweepPresence } from "../plan/news/presence.ts";
import { onWritten } from "../plan/written.ts";
import { planRoutes } from "../plan/planRoutes.ts";
import { preferenceRoutes } from "../access/preferenceRoutes.ts";
import { beginRoutes } from "../begin/beginRoutes.ts";
import { matterRoutes } from "../matters/matterRoutes.ts";
import { gateRoutes } from "../gates/gateRoutes.ts";
import { charterRoutes } from "../charter/charterRoutes.ts";
import { makeReport } from "../report/makeReport.ts";
import { reportAttached } from "../report/recipients.ts";
import { reportRoutes } from "../report/reportRoutes.ts";
import { resourceRoutes } from "../resources/resourceRoutes.ts";
import { Post, type PostOptions } from "../tell/post.ts";
import type { SMTPServer } from "smtp-server";
import { talkRoutes } from "../talk/talkRoutes.ts";
import { tellRoutes } from "../tell/tellRoutes.ts";
import { chancesRoutes } from "../chances/chancesRoutes.ts";
import { qualityRoutes } from "../quality/qualityRoutes.ts";
import { portfolioRoutes } from "../portfolio/portfolioRoutes.ts";
import { serveClient } from "../shared/clientFiles.ts";
import { loggedCall, otherMethods, tellFailure } from "../shared/http.ts";
import { serve, SESSION_COOKIE, type Serving } from "../access/serve.ts";
import { openApiDocument } from "./openapi.ts";
import { inboxRoutes, sweepNotices } from "../tell/inboxRoutes.ts";
import { tellDifferences } from "../tell/moved/differences.ts";
import { tellWaiting } from "../collect/report/tellReports.ts";
import { tellCycle } from "../cycle/tellPeriods.ts";
import { sweepTalkFiles } from "../talk/talkFiles.ts";
import { bringRoutes } from "../bring/bringRoutes.ts";
import { Metrics } from "../service/metrics.ts";
import { serviceRoutes } from "../service/serviceRoutes.ts";
import { calendarRoutes } from "../calendar/calendarRoutes.ts";

export interface AppOptions {
  readonly database: DataSource;
  readonly logger: Logger;
  /** The built web client; left out where only the interface is served. */
  readonly webFolder?: string;
  /**
   * Connections for sessions alone, so that whoever waits for a plan keeps nobody from being known; left out, they
   * share the others.
   */
  readonly sessions?: DataSource;
  /**
   * Which proxies in front are believed to say where a call comes from, as express takes it: `loopback`, or addresses.
   * None by default.
   */
  readonly proxies?: string | undefined;
  readonly mail?: PostOptions;
  readonly calls?: SenderOptions;
  /** How often a stream of news is asked whether its caller may still hear it; every 15 s unless said. */
  readonly newsBeatMilliseconds?: number;
}

const security = helmet({
  contentSecurityPolicy: {
    useDefaults: true,
    directives: {
      "default-src": ["'self'"],
      "script-src": ["'self'"],
      "style-src": ["'self'", "'unsafe-inline'"],
      "img-src": ["'self'", "data:", "blob:"],
      "font-src": ["'self'", "data:"],
      "upgrade-insecure-requests": null,
    },
  },
  // The app may be served without TLS inside an organisation; whoever puts TLS in front adds this there.
  strictTransportSecurity: false,
});

export interface App {
  readonly app: Express;
  /** What was registered, for tests. */
  readonly served: Set<EndpointKey>;
  /** Removes what has run out: sessions, counts, files that nobody stored. */
  readonly sweep: () => Promise<void>;
  /** Sends mail that waits; gives how many left. */
  readonly deliver: () => Promise<number>;
  /** Calls other systems. */
  readonly sender: HookSender;
  /** Tells people what of their work is not what they were told last; gives of how many projects it looked. */
  readonly tellDifferences: () => Promise<number>;
  /** Tells managers what the open period still wants of them. */
  readonly tellCycle: () => Promise<void>;
  /** Takes answers by mail at `port` or `host:port`. */
  readonly takeMail: (at: string) => Promise<SMTPServer>;
  /** Ends open streams; the server says from now on that calls are to be sent to another. */
  readonly close: () => void;
}

/** The whole application, ready to listen. */
export function createApp(options: AppOptions): App {
  const { database } = options;
  const app = express();
  const store = new SessionStore(options.sessions ?? database);
  app.set("trust proxy", options.proxies ?? false);
  app.disable("x-powered-by");
  app.use(
    pinoHttp({
      logger: options.logger,
      autoLogging: false,
      genReqId: nameCall,
      serializers: { req: loggedCall, res: () => undefined },
    }),
  );
  const metrics = new Metrics(database, { calls: database, sessions: options.sessions ?? database });
  app.use(metrics.timing);
  app.use(security, compression());
  const api = express.Router();
  api.use(
    "/api",
    session({
      name: SESSION_COOKIE,
      secret: sessionSecret(),
      store,
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: "lax", secure: "auto", maxAge: SESSION_MILLISECONDS },
    }),
  );
  const news = new PlanNewsDesk(database, options.logger);
  const post = new Post({ attach: reportAttached, ...options.mail });
  const serving: Serving = { router: api, database, served: new Set() };
  for (const routes of [
    accessRoutes,
    preferenceRoutes,
    tokenRoutes,
    feedRoutes,
    hookRoutes,
    portfolioRoutes,
    planRoutes,
    resourceRoutes,
    beginRoutes,
    outsideRoutes,
    boxRoutes,
    lookRoutes,
    qualityRoutes,
    chancesRoutes,
    loadRoutes,
    tellRoutes,
    inboxRoutes,
    findRoutes,
    documentRoutes,
  ])
    routes(serving);
  newsRoutes(serving, news, options.newsBeatMilliseconds);
  exchangeRoutes(serving, { bundleOf, recordOf, arrive: arriveRecord });
  for (const routes of [approveRoutes, whatIfRoutes, collectRoutes, datesRoutes, watchRoutes]) routes(serving, post);
  cycleRoutes(serving, post, makeReport(post));
  reportRoutes(serving, post);
  charterRoutes(serving, post);
  bringRoutes(serving);
  calendarRoutes(serving);
  matterRoutes(serving, post);
  talkRoutes(serving, post);
  gateRoutes(serving, post);
  let stopping = false;
  serviceRoutes(serving, metrics, () => stopping);
  serve(serving, "GET /api/openapi.json", () => openApiDocument());
  api.use("/api", otherMethods(serving.served));
  app.use(api);
  if (options.webFolder !== undefined && existsSync(options.webFolder)) serveClient(app, options.webFolder);
  app.use(tellFailure);
  const sweep = async (): Promise<void> =>
    void (await Promise.all([
      store.sweep(),
      sweepMisses(database),
      sweepPresence(database),
      sweepDrafts(database),
      sweepParts(database),
      sweepTalkFiles(database),
      sweepNotices(database),
      sweepCalls(database),
    ]));
  const sender = new HookSender(database, options.logger, options.calls);
  const unlisten = onWritten(database, () => news.poke());
  return {
    app,
    served: serving.served,
    sweep,
    deliver: () => post.deliver(database),
    sender,
    // Read where it is wanted alone: most installations take no mail.
    takeMail: async (at) =>
      (await import("../talk/mailIn.ts")).takeMail(at, { database, post, logger: options.logger }),
    tellCycle: () => tellCycle(database, post),
    tellDifferences: async () => {
      await tellWaiting(database, post);
      return tellDifferences(database, post);
    },
    close: () => ((stopping = true), unlisten(), news.close(), post.close(), sender.close()),
  };
}

/** Names a call in the log, and to whoever made it. */
function nameCall(_request: unknown, response: { setHeader: (name: string, value: string) => unknown }): string {
  const name = randomUUID();
  response.setHeader("X-Request-Id", name);
  return name;
}

/**
 * Signs session ids. Another server beside this one needs the same; alone, a fresh one would only end sessions at a
 * restart.
 */
function sessionSecret(): string {
  return process.env["CHRONOMETRA_SECRET"] ?? randomBytes(32).toString("hex");
}
