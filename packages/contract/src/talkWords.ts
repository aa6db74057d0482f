/** What can be talked about: a project as such, an activity or milestone, something in a register, a gate, a report. */
export const TALK_PLACES = ["project", "activity", "matter", "gate", "report"] as const;
export type TalkAbout = (typeof TALK_PLACES)[number];

/** What is talked about. */
export interface TalkPlace {
  readonly about: TalkAbout;
  /** Its project; empty of something in a register, which is known by its own id. */
  readonly project: string;
  /** The activity, what stands in the register, the stage, or the number of the period; empty of the project as such. */
  readonly aboutId: string;
}

/** As the address of a page names what is talked about. */
export const talkAddress = ({ about, project, aboutId }: TalkPlace): string =>
  `/talk?about=${about}&project=${encodeURIComponent(project)}&id=${encodeURIComponent(aboutId)}`;

/** So many files go with one message. */
export const MOST_TALK_FILES = 10;

/** The longest that can be written at once, in characters. */
export const LONGEST_MESSAGE = 5000;
