export { CHECKS } from './checks';
export { leftoverIn } from './checks/leftoverWords';
export { contrastOf } from './contrast';
export type { Check, CheckContext, CheckFinding, KnownPicture, Repair } from './define';
export { repairTemplate } from './repair';
export { runChecks } from './run';
