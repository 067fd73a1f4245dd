import { AuditAction1796100000000 } from './AuditAction1796100000000'
import { Classes1795613000000 } from './Classes1795613000000'
import { Credentials1798100000000 } from './Credentials1798100000000'
import { EveryOperation1796700000000 } from './EveryOperation1796700000000'
import { Evidence1798800000000 } from './Evidence1798800000000'
import { HoldMade1799000000000 } from './HoldMade1799000000000'
import { Instruments1798900000000 } from './Instruments1798900000000'
import { Expected1797300000000 } from './Expected1797300000000'
import { Scopes1797400000000 } from './Scopes1797400000000'
import { FactsOfFindings1795800000000 } from './FactsOfFindings1795800000000'
import { Feed1797000000000 } from './Feed1797000000000'
import { FollowUpsAndSkips1795611000000 } from './FollowUpsAndSkips1795611000000'
import { LedgerGuards1795567700000 } from './LedgerGuards1795567700000'
import { Library1795579617776 } from './Library1795579617776'
import { LibrarySearch1795610000000 } from './LibrarySearch1795610000000'
import { Gauges1798700000000 } from './Gauges1798700000000'
import { Histories1798300000000 } from './Histories1798300000000'
import { MeasureUnits1798400000000 } from './MeasureUnits1798400000000'
import { StandingSteps1798500000000 } from './StandingSteps1798500000000'
import { KnownWords1798600000000 } from './KnownWords1798600000000'
import { Lookups1798200000000 } from './Lookups1798200000000'
import { Mended1795700000000 } from './Mended1795700000000'
import { ByHand1797700000000 } from './ByHand1797700000000'
import { Identity1797600000000 } from './Identity1797600000000'
import { IdleEnd1798000000000 } from './IdleEnd1798000000000'
import { Picking1797500000000 } from './Picking1797500000000'
import { Planning1797100000000 } from './Planning1797100000000'
import { PlanReach1795612000000 } from './PlanReach1795612000000'
import { ReasonUses1797900000000 } from './ReasonUses1797900000000'
import { Recast1795900000000 } from './Recast1795900000000'
import { Running1797200000000 } from './Running1797200000000'
import { SampleWords1795614000000 } from './SampleWords1795614000000'
import { Schema1795567637219 } from './Schema1795567637219'
import { Begin1796000000000 } from './server/Begin1796000000000'
import { CredentialsThere1798100000000 } from './server/CredentialsThere1798100000000'
import { EveryOperationThere1796700000000 } from './server/EveryOperationThere1796700000000'
import { ExpectedThere1797300000000 } from './server/ExpectedThere1797300000000'
import { ScopesThere1797400000000 } from './server/ScopesThere1797400000000'
import { ByHandThere1797700000000 } from './server/ByHandThere1797700000000'
import { GaugesThere1798700000000 } from './server/GaugesThere1798700000000'
import { IdentityThere1797600000000 } from './server/IdentityThere1797600000000'
import { PickingThere1797500000000 } from './server/PickingThere1797500000000'
import { PlanningThere1797100000000 } from './server/PlanningThere1797100000000'
import { RunningThere1797200000000 } from './server/RunningThere1797200000000'
import { SealedTooThere1797800000000 } from './server/SealedTooThere1797800000000'
import { StopsAndLoadsThere1796900000000 } from './server/StopsAndLoadsThere1796900000000'
import { FeedThere1797000000000 } from './server/FeedThere1797000000000'
import { SnakeCase1796000000000 } from './SnakeCase1796000000000'
import { SealedToo1797800000000 } from './SealedToo1797800000000'
import { StopsAndLoads1796900000000 } from './StopsAndLoads1796900000000'

/** In the order in which they are run. */
export const migrations = [
  Schema1795567637219,
  LedgerGuards1795567700000,
  Library1795579617776,
  LibrarySearch1795610000000,
  FollowUpsAndSkips1795611000000,
  PlanReach1795612000000,
  Classes1795613000000,
  SampleWords1795614000000,
  Mended1795700000000,
  FactsOfFindings1795800000000,
  Recast1795900000000,
  SnakeCase1796000000000,
  AuditAction1796100000000,
  EveryOperation1796700000000,
  StopsAndLoads1796900000000,
  Feed1797000000000,
  Planning1797100000000,
  Running1797200000000,
  Expected1797300000000,
  Scopes1797400000000,
  Picking1797500000000,
  Identity1797600000000,
  ByHand1797700000000,
  SealedToo1797800000000,
  ReasonUses1797900000000,
  IdleEnd1798000000000,
  Credentials1798100000000,
  Lookups1798200000000,
  Histories1798300000000,
  MeasureUnits1798400000000,
  StandingSteps1798500000000,
  KnownWords1798600000000,
  Gauges1798700000000,
  Evidence1798800000000,
  Instruments1798900000000,
  HoldMade1799000000000,
]

/** The same on a server, in the order in which they are run. */
export const serverMigrations = [
  Begin1796000000000,
  AuditAction1796100000000,
  EveryOperationThere1796700000000,
  StopsAndLoadsThere1796900000000,
  FeedThere1797000000000,
  PlanningThere1797100000000,
  RunningThere1797200000000,
  ExpectedThere1797300000000,
  ScopesThere1797400000000,
  PickingThere1797500000000,
  IdentityThere1797600000000,
  ByHandThere1797700000000,
  SealedTooThere1797800000000,
  ReasonUses1797900000000,
  IdleEnd1798000000000,
  CredentialsThere1798100000000,
  Lookups1798200000000,
  Histories1798300000000,
  MeasureUnits1798400000000,
  StandingSteps1798500000000,
  KnownWords1798600000000,
  GaugesThere1798700000000,
  Evidence1798800000000,
  Instruments1798900000000,
  HoldMade1799000000000,
]
