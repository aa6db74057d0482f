import { useQuery } from "@tanstack/react-query";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { groupsQuery, portfolioQuery } from "../../project/queries.ts";
import { Refused } from "../../shared/dialogs/Refused.tsx";
import { holds, holdsEverywhere, useMe } from "../../shared/session/session.ts";
import { FieldsPart } from "./FieldsPart.tsx";
import { ProgrammesPart } from "./ProgrammesPart.tsx";
import { QualityLimitsPart } from "./QualityLimitsPart.tsx";
import { ThresholdsPart } from "./ThresholdsPart.tsx";

/** What is set up for all projects: how they are grouped, the fields they have, and when they are to be explained. */
export function GroupsPage() {
  const me = useMe();
  const query = useQuery(portfolioQuery);
  const groups = useQuery(groupsQuery);
  if (!holds(me, "controller")) return <Refused who="controllers" />;
  return (
    <div className="page">
      <h1 className="pb-3 text-xl">Groups, fields and limits</h1>
      <Loaded query={query}>
        {(portfolio) =>
          !holdsEverywhere(me, "controller") ? (
            <div className="max-w-xl">
              <ThresholdsPart portfolio={portfolio} />
              <p className="muted pt-3 text-sm">
                Groups, fields and what a plan is trusted by are set up by controllers of the whole house.
              </p>
            </div>
          ) : (
            <div className="grid items-start gap-x-12 gap-y-6 xl:grid-cols-2">
              <Loaded query={groups}>{(all) => <ProgrammesPart portfolio={portfolio} groups={all} />}</Loaded>
              <div className="flex flex-col gap-6">
                <FieldsPart portfolio={portfolio} />
                <ThresholdsPart portfolio={portfolio} />
                <QualityLimitsPart limits={portfolio.qualityLimits} />
              </div>
            </div>
          )
        }
      </Loaded>
    </div>
  );
}
