export type Severity = 'stop' | 'warn' | 'note';

/** What each is called before what is found. */
export const SEVERITY_NAMES: Record<Severity, string> = { stop: 'Stop', warn: 'Warning', note: 'Note' };

/** Gravest first. */
export const SEVERITY_ORDER: Record<Severity, number> = { stop: 0, warn: 1, note: 2 };

/** A single change of one field of the design that answers a finding or helps the output. */
export type DesignChange = { label: string; path: string; value: unknown };

export type Finding = {
  code: string;
  severity: Severity;
  /** JSON path of the field, or ids of the parts, that it is about. */
  where: string;
  /** What is the matter. */
  message: string;
  /** What to do about it. */
  advice: string;
  change?: DesignChange;
};

/** How many stops and warnings there are, in words. */
export function formatTroubles(findings: readonly Pick<Finding, 'severity'>[]): string {
  const words = (['stop', 'warn'] as const).flatMap((severity) => {
    const count = findings.filter((finding) => finding.severity === severity).length;
    const name = severity === 'stop' ? 'stop' : 'warning';
    return count === 0 ? [] : [`${count} ${name}${count === 1 ? '' : 's'}`];
  });
  return words.join(', ') || 'no warnings';
}
