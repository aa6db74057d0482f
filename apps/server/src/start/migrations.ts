import { FirstSchema1790000000000 } from "./migrations/1790000000000-firstSchema.ts";
import { PresenceAndPreferences1795000000000 } from "./migrations/1795000000000-presenceAndPreferences.ts";
import { IssuedPlans1796000000000 } from "./migrations/1796000000000-issuedPlans.ts";
import { Collecting1797000000000 } from "./migrations/1797000000000-collecting.ts";
import { Desks1798000000000 } from "./migrations/1798000000000-desks.ts";
import { Cycle1799000000000 } from "./migrations/1799000000000-cycle.ts";
import { WhatIfs1800000000000 } from "./migrations/1800000000000-whatIfs.ts";
import { Outside1801000000000 } from "./migrations/1801000000000-outside.ts";
import { Watch1802000000000 } from "./migrations/1802000000000-watch.ts";
import { Quality1803000000000 } from "./migrations/1803000000000-quality.ts";
import { Risks1804000000000 } from "./migrations/1804000000000-risks.ts";
import { NothingLost1805000000000 } from "./migrations/1805000000000-nothingLost.ts";
import { OneStream1806000000000 } from "./migrations/1806000000000-oneStream.ts";
import { TrueSums1807000000000 } from "./migrations/1807000000000-trueSums.ts";
import { LockWords1808000000000 } from "./migrations/1808000000000-lockWords.ts";
import { LockedEstimates1809000000000 } from "./migrations/1809000000000-lockedEstimates.ts";
import { LimitWords1810000000000 } from "./migrations/1810000000000-limitWords.ts";
import { RequestsAlone1811000000000 } from "./migrations/1811000000000-requestsAlone.ts";
import { Closings1812000000000 } from "./migrations/1812000000000-closings.ts";
import { Corrections1813000000000 } from "./migrations/1813000000000-corrections.ts";
import { ExportedPlans1814000000000 } from "./migrations/1814000000000-exportedPlans.ts";
import { WeekChanges1815000000000 } from "./migrations/1815000000000-weekChanges.ts";
import { Names1816000000000 } from "./migrations/1816000000000-names.ts";
import { Register1817000000000 } from "./migrations/1817000000000-register.ts";
import { PlainRows1818000000000 } from "./migrations/1818000000000-plainRows.ts";
import { Reports1819000000000 } from "./migrations/1819000000000-reports.ts";
import { Charters1821000000000 } from "./migrations/1821000000000-charters.ts";
import { Gates1822000000000 } from "./migrations/1822000000000-gates.ts";
import { Groups1825000000000 } from "./migrations/1825000000000-groups.ts";
import { GroupParts1826000000000 } from "./migrations/1826000000000-groupParts.ts";
import { Documents1827000000000 } from "./migrations/1827000000000-documents.ts";
import { GroupLimits1828000000000 } from "./migrations/1828000000000-groupLimits.ts";
import { Reach1829000000000 } from "./migrations/1829000000000-reach.ts";
import { Agreed1830000000000 } from "./migrations/1830000000000-agreed.ts";
import { Planned1831000000000 } from "./migrations/1831000000000-planned.ts";
import { Matters1832000000000 } from "./migrations/1832000000000-matters.ts";
import { TalkFiles1837000000000 } from "./migrations/1837000000000-talkFiles.ts";
import { Stages1838000000000 } from "./migrations/1838000000000-stages.ts";
import { CalendarEntries1839000000000 } from "./migrations/1839000000000-calendarEntries.ts";
import { Systems1840000000000 } from "./migrations/1840000000000-systems.ts";
import { Hooks1841000000000 } from "./migrations/1841000000000-hooks.ts";
import { Noted1836000000000 } from "./migrations/1836000000000-noted.ts";
import { Talk1835000000000 } from "./migrations/1835000000000-talk.ts";
import { History1834000000000 } from "./migrations/1834000000000-history.ts";
import { Notices1833000000000 } from "./migrations/1833000000000-notices.ts";
import { Starts1824000000000 } from "./migrations/1824000000000-starts.ts";
import { Templates1823000000000 } from "./migrations/1823000000000-templates.ts";
import { Understandings1820000000000 } from "./migrations/1820000000000-understandings.ts";

/** The story of the database, in the order in which it happened. */
export const MIGRATIONS = [
  FirstSchema1790000000000,
  PresenceAndPreferences1795000000000,
  IssuedPlans1796000000000,
  Collecting1797000000000,
  Desks1798000000000,
  Cycle1799000000000,
  WhatIfs1800000000000,
  Outside1801000000000,
  Watch1802000000000,
  Quality1803000000000,
  Risks1804000000000,
  NothingLost1805000000000,
  OneStream1806000000000,
  TrueSums1807000000000,
  LockWords1808000000000,
  LockedEstimates1809000000000,
  LimitWords1810000000000,
  RequestsAlone1811000000000,
  Closings1812000000000,
  Corrections1813000000000,
  ExportedPlans1814000000000,
  WeekChanges1815000000000,
  Names1816000000000,
  Register1817000000000,
  PlainRows1818000000000,
  Reports1819000000000,
  Understandings1820000000000,
  Charters1821000000000,
  Gates1822000000000,
  Templates1823000000000,
  Starts1824000000000,
  Groups1825000000000,
  GroupParts1826000000000,
  Documents1827000000000,
  GroupLimits1828000000000,
  Reach1829000000000,
  Agreed1830000000000,
  Planned1831000000000,
  Matters1832000000000,
  Notices1833000000000,
  History1834000000000,
  Talk1835000000000,
  Noted1836000000000,
  TalkFiles1837000000000,
  Stages1838000000000,
  CalendarEntries1839000000000,
  Systems1840000000000,
  Hooks1841000000000,
];
