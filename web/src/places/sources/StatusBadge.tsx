import type { SourceStatus } from '@carafe/contract';
import {
  IconAlertTriangle,
  IconCircleCheck,
  IconCircleDashed,
  IconClockExclamation,
  IconEye,
} from '@tabler/icons-react';
import { STATUS_NAMES } from './names';
import classes from './Sources.module.css';

const ICONS = {
  fresh: IconCircleCheck,
  stale: IconClockExclamation,
  failed: IconAlertTriangle,
  never: IconCircleDashed,
  waiting: IconEye,
};

/** How a source stands, by shape, word and colour. */
export function StatusBadge({ status }: { status: SourceStatus }) {
  const Icon = ICONS[status];
  return (
    <span className={classes.status} data-status={status}>
      <Icon size={15} aria-hidden /> {STATUS_NAMES[status]}
    </span>
  );
}
