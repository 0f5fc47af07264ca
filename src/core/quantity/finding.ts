export type Severity = 'stop' | 'warn' | 'note';

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
