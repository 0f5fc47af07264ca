'use client';

import { createContext, useCallback, useContext, useEffect, useId, useState, type ReactNode } from 'react';

type Report = (field: string, faulty: boolean) => void;

const ReportContext = createContext<Report | null>(null);
const FaultyContext = createContext(false);

/** Knows whether a field inside holds an entry that was refused, so that what is not of it can be dimmed. */
export function FaultyEntries({ children }: { children: ReactNode }) {
  const [fields, setFields] = useState<readonly string[]>([]);
  const report = useCallback<Report>(
    (field, faulty) =>
      setFields((now) => {
        if (now.includes(field) === faulty) return now;
        return faulty ? [...now, field] : now.filter((one) => one !== field);
      }),
    [],
  );
  return (
    <ReportContext value={report}>
      <FaultyContext value={fields.length > 0}>{children}</FaultyContext>
    </ReportContext>
  );
}

/** Tells, for as long as a field stands there, whether its entry was refused. */
export function useReportFault(faulty: boolean): void {
  const report = useContext(ReportContext);
  const field = useId();
  useEffect(() => {
    report?.(field, faulty);
    return () => report?.(field, false);
  }, [report, field, faulty]);
}

/** What was computed from the entries: dimmed while one of them does not count. */
export function OfGoodEntries({ children, className = '' }: { children: ReactNode; className?: string }) {
  const faulty = useContext(FaultyContext);
  return (
    <div className={className} data-of-last-good={faulty ? 'yes' : undefined}>
      {children}
    </div>
  );
}

/** Says why figures are dimmed, where they are. */
export function FaultyNotice() {
  return useContext(FaultyContext) ? (
    <p role="status" className="mb-2 border-l-[3px] border-over pl-2.5 text-[13px]">
      An entry cannot be used: the dimmed figures are those of the last good one.
    </p>
  ) : null;
}
