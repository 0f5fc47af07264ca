'use client';

import { hoursToMilliseconds } from 'date-fns';
import { useEffect, useMemo, useState } from 'react';
import { openReadings, sessionsOf, takeReading, useBenchReadings } from '@/client/bench-readings';
import { useBenchSettings, useSwitchedOn } from '@/client/bench-store';
import { useMeter } from '@/client/meter-store';
import type { Session } from '@/core/bench/session';
import { useSame } from '@/ui/use-same';
import { coursesOf, readingsIn } from './readings';

/** For how long after its begin a session is taken to go on. */
const GOES_ON_MILLISECONDS = hoursToMilliseconds(12);

/** The sessions of a design, the one on screen, and what was read in it; fresh while the page is in sight. */
export function useSessions(designId: string, revision: number) {
  useEffect(() => openReadings(designId), [designId]);
  const { settings } = useBenchSettings();
  const { settings: meter } = useMeter();
  const [picked, choose] = useState<Session | null | undefined>(undefined);
  const { kept, waiting } = useBenchReadings();
  // Asked for anew every few seconds, and mostly the same.
  const sessions = useSame(useMemo(() => sessionsOf({ kept, waiting }), [kept, waiting]));
  // One comes back to what was begun a while ago, after a reload as from another page, over midnight as well.
  const [latest] = sessions;
  const [openedAt] = useState(() => Date.now());
  const isGoingOn = latest && Date.parse(latest.session.startedAt) > openedAt - GOES_ON_MILLISECONDS;
  const chosen = useSame(picked === undefined ? (isGoingOn ? latest.session : null) : picked);
  const { settings: switchedOn } = useSwitchedOn();
  const onAt = chosen && switchedOn.sessionId === chosen.id ? switchedOn.at : null;
  const begin = (note: string) =>
    choose({
      id: crypto.randomUUID(),
      revision,
      startedAt: new Date().toISOString(),
      source: settings.source,
      meter,
      note,
    });
  const readings = useMemo(
    () =>
      chosen &&
      readingsIn(
        sessions.find(({ session }) => session.id === chosen.id)?.readings ?? [],
        new Set(waiting.map(({ reading }) => reading.id)),
        onAt,
        (reading, picture) => takeReading({ designId, session: chosen, reading, picture }),
      ),
    [chosen, sessions, waiting, onAt, designId],
  );
  // Of one revision all sessions tell together.
  const alike = useSame(
    useMemo(() => sessions.filter(({ session }) => session.revision === chosen?.revision), [chosen, sessions]),
  );
  const courses = useMemo(() => chosen && coursesOf(chosen, sessions), [chosen, sessions]);
  return { sessions, chosen, readings, alike, courses, choose, begin };
}
