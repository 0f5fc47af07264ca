import type { ReactNode } from 'react';
import { SEVERITY_NAMES, type Finding, type Severity } from '@/core/quantity/finding';

const STYLES: Record<Severity, string> = { stop: 'border-over', warn: 'border-close', note: 'border-line' };

/** One finding of a list: its weight in word and colour, what is the matter, what to do, and what the list adds. */
export function FindingItem({ finding, children }: { finding: Finding; children?: ReactNode }) {
  return (
    <li data-finding={finding.code} className={`border-l-[3px] pl-2.5 text-[13px] ${STYLES[finding.severity]}`}>
      <strong className="font-semibold">{SEVERITY_NAMES[finding.severity]}.</strong> {finding.message}{' '}
      <span className="text-soft">{finding.advice}</span> {children}
    </li>
  );
}
