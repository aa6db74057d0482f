declare module "email-reply-parser" {
  /** Tells what somebody wrote in a mail from what they quote there and how they sign. */
  export default class EmailReplyParser {
    read(text: string): { getVisibleText(options?: { aggressive?: boolean }): string };
  }
}
