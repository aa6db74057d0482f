import { talkAddress, type TalkPlace } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Eye, EyeOff, Pin, PinOff } from "lucide-react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { followedQuery } from "./queries.ts";

interface Props {
  readonly place: TalkPlace;
  /** What it is, by its name. */
  readonly of: string;
}

/** Follows something: what is said of it, and where it goes, is told; or keeps it at hand. */
export function FollowButtons({ place, of }: Props) {
  const client = useQueryClient();
  const { data } = useQuery(followedQuery);
  const put = useMutation({
    mutationFn: (change: { follows?: boolean; pinned?: boolean }) =>
      call("PUT /api/following", { body: { place, ...change } }),
    onError: (error) => void toast.error(`Not stored: ${error.message}`),
    onSettled: () => client.invalidateQueries({ queryKey: followedQuery.queryKey }),
  });
  if (data === undefined) return null;
  const own = data.find((each) => talkAddress(each.place) === talkAddress(place));
  const { follows, pinned } = { follows: own?.follows === true, pinned: own?.pinned === true };
  const shared = { type: "button" as const, disabled: put.isPending, className: "btn btn-ghost btn-xs min-h-[26px]" };
  return (
    <>
      <button
        {...shared}
        aria-pressed={follows}
        aria-label={`Follow ${of}`}
        title={follows ? "You are told what becomes of it; press to end that" : "Be told what becomes of it"}
        onClick={() => put.mutate({ follows: !follows })}
      >
        {follows ? <Eye size={14} aria-hidden="true" /> : <EyeOff size={14} className="muted" aria-hidden="true" />}
        {follows ? "Followed" : "Follow"}
      </button>
      <button
        {...shared}
        aria-pressed={pinned}
        aria-label={`Pin ${of}`}
        title={
          pinned
            ? "It stands first where you find things; press to end that"
            : "Have it stand first where you find things"
        }
        onClick={() => put.mutate({ pinned: !pinned })}
      >
        {pinned ? <Pin size={14} aria-hidden="true" /> : <PinOff size={14} className="muted" aria-hidden="true" />}
        {pinned ? "Pinned" : "Pin"}
      </button>
    </>
  );
}
