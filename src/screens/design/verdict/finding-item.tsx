import type { ReactNode } from 'react';
import type { Finding } from '@/core/quantity/finding';

const SEVERITY: Record<Finding['severity'], { word: string; style: string }> = {
  stop: { word: 'Stop', style: 'border-over' },
  warn: { word: 'Warning', style: 'border-close' },
  note: { word: 'Note', style: 'border-line' },
};

/** One finding of a list: its weight in word and colour, what is the matter, what to do, and what the list adds. */
export function FindingItem({ finding, children }: { finding: Finding; children?: ReactNode }) {
  return (
    <li data-finding={finding.code} className={`border-l-[3px] pl-2.5 text-[13px] ${SEVERITY[finding.severity].style}`}>
      <strong className="font-semibold">{SEVERITY[finding.severity].word}.</strong> {finding.message}{' '}
      <span className="text-soft">{finding.advice}</span> {children}
    </li>
  );
}
