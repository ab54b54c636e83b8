import { useMemo } from 'react';
import type { BuildFinding } from '@carafe/core/build';
import { cutFinding, weightFinding, weightOf, type SiteFinding } from '@carafe/core/check';
import { store } from '../../app/store';
import type { Filled } from './worker/messages';

/** What is wrong somewhere in the template, for the interface. */
export interface DeskFinding {
  severity: 'error' | 'warning' | 'hint';
  node: string;
  path: string;
  message: string;
  repair?: { label: string; text: string; start: number; end: number };
}

export function joinFindings(checked: SiteFinding[], built: BuildFinding[]): DeskFinding[] {
  const fromCheck = checked.map(
    ({ severity, node, path, message, repair, start, end }): DeskFinding => ({
      severity,
      node,
      path,
      message,
      ...(repair && { repair: { ...repair, start, end } }),
    }),
  );
  const known = new Set(fromCheck.map((f) => `${f.node} ${f.message}`));
  // Both find what does not parse; a designer needs it once.
  return [...fromCheck, ...built.filter((f) => !known.has(`${f.node} ${f.message}`))];
}

/** What is said of the template, and of the mail that is looked at; with what that weighs, in bytes. */
export function useFindings(
  checked: SiteFinding[],
  built: BuildFinding[],
  filled: Filled | null,
): { findings: DeskFinding[]; weight: number | null } {
  const cut = filled?.cut ?? null;
  const weight = filled ? weightOf(filled.mail.html) : null;
  const findings = useMemo(() => {
    const { template } = store.getState().desk;
    const heavy = weight === null ? null : weightFinding(weight);
    return joinFindings(checked, [
      ...built,
      ...(cut && template ? [cutFinding(template, cut)] : []),
      ...(heavy ? [heavy] : []),
    ]);
  }, [checked, built, weight, cut]);
  return { findings, weight };
}
