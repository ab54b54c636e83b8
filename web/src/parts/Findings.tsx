import { UnstyledButton } from '@mantine/core';
import { IconAlertTriangle, IconInfoCircle, IconXboxX } from '@tabler/icons-react';
import classes from './parts.module.css';

export interface ShownFinding {
  severity: 'error' | 'warning' | 'hint';
  message: string;
  repair?: { label: string };
}

/** Each severity has its own shape, not only its colour. */
const ICON = { error: IconXboxX, warning: IconAlertTriangle, hint: IconInfoCircle };

export function SeverityIcon({
  severity,
  size = 14,
}: {
  severity: ShownFinding['severity'];
  size?: number;
}) {
  const Shape = ICON[severity];
  return <Shape size={size} aria-label={severity} color="var(--attention)" />;
}

/** What the checks say, with their repairs. */
export function Findings<F extends ShownFinding>({
  findings,
  onRepair,
}: {
  findings: readonly F[];
  onRepair?: (finding: F) => void;
}) {
  return (
    <>
      {findings.map((finding, i) => (
        <div key={`${finding.message} ${i}`} className={classes.finding} role="status">
          <SeverityIcon severity={finding.severity} />
          <span>
            {finding.message}
            {finding.repair && onRepair && (
              <UnstyledButton className={classes.repair} onClick={() => onRepair(finding)}>
                {finding.repair.label}
              </UnstyledButton>
            )}
          </span>
        </div>
      ))}
    </>
  );
}
