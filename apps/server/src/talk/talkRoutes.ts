import { TALK_PLACES, type TalkAbout, type TalkPlace } from "@chronometra/contract";
import type { Request } from "express";
import { serve, type Serving } from "../access/serve.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { MailEntity } from "../tell/mailEntity.ts";
import type { Post } from "../tell/post.ts";
import { takeAnswer } from "./answers.ts";
import { change, viewTalk, write } from "./messages.ts";
import { countTalk, listThreads } from "./threads.ts";
import { follow, listFollowed, noteRead } from "./following.ts";
import { announce, endAnnouncement, listAnnouncements } from "./announce/announcements.ts";
import { inTransaction } from "../shared/database.ts";
import { dropContent, receiveFile } from "../documents/fileParts.ts";
import { sendFile } from "../documents/sendFile.ts";
import { addTalkFile, assertMaySend, findTalkFile } from "./talkFiles.ts";

const said = ({ query }: Request, name: string): string => {
  const value = query[name];
  return typeof value === "string" ? value : "";
};

function placeIn(request: Request): TalkPlace {
  const about = said(request, "about");
  if (!(TALK_PLACES as readonly string[]).includes(about))
    throw new Failure("invalid", `Say what it is about: ${TALK_PLACES.join(", ")}.`);
  return { about: about as TalkAbout, project: said(request, "project"), aboutId: said(request, "id") };
}

/** Talk about projects and what is in them. */
export function talkRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/talk", ({ database, me, request }) =>
    viewTalk(database, me, placeIn(request), said(request, "all") === "1"),
  );
  serve(serving, "POST /api/talk", ({ database, me, body }) => write(database, me, post, body));
  serve(serving, "POST /api/talk-files", async ({ database, me, request, response }) => {
    const place = placeIn(request);
    await assertMaySend(database, me, place);
    const content = await receiveFile(database, request, response);
    try {
      return await inTransaction(database, (manager) => addTalkFile(manager, me, place, content));
    } catch (error) {
      await dropContent(database, content.id);
      throw error;
    }
  });
  serve(serving, "GET /api/talk-files/:file", async ({ database, me, params, request, response }) => {
    await sendFile(database, await findTalkFile(database, me, params["file"]!), request, response);
    return "";
  });
  serve(serving, "PUT /api/talk/:message", ({ database, me, params, body }) =>
    change(database, me, post, params["message"]!, body),
  );
  serve(serving, "PUT /api/talk-read", async ({ database, me, body }) => {
    await noteRead(database, me, body);
    return { ok: true as const };
  });
  serve(serving, "GET /api/projects/:project/talk-counts", ({ database, me, params }) =>
    countTalk(database, me, params["project"]!),
  );
  serve(serving, "GET /api/following", ({ database, me }) => listFollowed(database, me));
  serve(serving, "PUT /api/following", async ({ database, me, body }) => {
    await follow(database, me, body);
    return { ok: true as const };
  });
  serve(serving, "GET /api/announcements", ({ database, me }) => listAnnouncements(database, me));
  serve(serving, "POST /api/announcements", ({ database, me, body }) => announce(database, me, post, body));
  serve(serving, "PUT /api/announcements/:announcement", ({ database, me, params, body: { ended } }) =>
    endAnnouncement(database, me, params["announcement"]!, ended),
  );
  serve(serving, "GET /api/talks", ({ database, me, request }) => {
    const project = said(request, "project");
    return listThreads(database, me, project === "" ? null : project);
  });
  serve(serving, "POST /api/mail/:mail/answer", async ({ database, me, params, body: { text } }) => {
    const mail = await database.getRepository(MailEntity).findOneBy({ id: params["mail"]!, accountId: me.id });
    const key = orNotFound(mail, "message of that address").answerKey;
    if (key === null) throw new Failure("invalid", "This message tells of nothing that can be answered.");
    await takeAnswer(database, post, { key, from: post.addressOf(me), text, mailId: null });
    return { ok: true as const };
  });
}
