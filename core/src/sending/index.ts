export { mustRest, type LedgerEntry, type LedgerQuestion, type RecentEmail } from './ledger';
export { maySend, type SendAnswer, type SendRequest } from './maySend';
export {
  HOLD_REASONS,
  STOP_REASONS,
  type HoldReason,
  type PostponeReason,
  type StopReason,
} from './reasons';
