import { createStore, del, entries, set, type UseStore } from 'idb-keyval';
import { create } from 'zustand';
import { entrySchema } from '@/core/bench/entries';
import { joined, sessionSchema, type SessionReadings } from '@/core/bench/session';
import * as z from '@/core/zod';
import { Refusal, Trouble } from './answers';
import { fetchSessions, keepPicture, keepReadings } from './bench-api';
import { keepFresh } from './keep-fresh';

/** How often what others have taken is asked for, and what waits is sent anew, ms. */
const AGAIN_MILLISECONDS = 3000;

/** An entry that the server is not known to have, and its picture as it was taken. */
const waitingSchema = z.strictObject({
  designId: z.string(),
  session: sessionSchema,
  reading: entrySchema,
  picture: z.instanceof(Blob).nullable().default(null),
});
type Waiting = z.output<typeof waitingSchema>;

type BenchReadings = {
  /** Of which design the rest is. */
  designId: string | null;
  /** What the server has; null until it has said so. */
  kept: SessionReadings[] | null;
  waiting: Waiting[];
  /** Why the server does not take what waits; null where it is not asked, or away. */
  refused: string | null;
  /** Whether this browser keeps what waits over the end of the page. */
  isKept: boolean;
};

/** Readings of the design on screen: those of the server, and those that wait in this browser to be sent. */
export const useBenchReadings = create<BenchReadings>(() => ({
  designId: null,
  kept: null,
  waiting: [],
  refused: null,
  isKept: true,
}));

let opened: UseStore | null = null;
const store = (): UseStore => (opened ??= createStore('eager-ladder-readings', 'waiting'));

/** All sessions of the design, with what waits among them; newest first. */
export const sessionsOf = ({ kept, waiting }: Pick<BenchReadings, 'kept' | 'waiting'>): SessionReadings[] =>
  joined(
    kept ?? [],
    waiting.map(({ session, reading }) => ({ session, readings: [reading] })),
  );

/** Takes a reading: it is kept in this browser at once, and sent. */
export function takeReading(waiting: Waiting): void {
  useBenchReadings.setState((state) => ({ waiting: [...state.waiting, waiting] }));
  void set(waiting.reading.id, waiting, store()).then(
    () => useBenchReadings.setState({ isKept: true }),
    () => useBenchReadings.setState({ isKept: false }),
  );
  void sendWaiting();
}

/** Gives up a reading that the server refuses. */
export function dropWaiting(id: string): void {
  useBenchReadings.setState(({ waiting }) => ({
    waiting: waiting.filter(({ reading }) => reading.id !== id),
    refused: null,
  }));
  void del(id, store()).catch(() => undefined);
}

/** Opens the readings of a design and keeps them fresh while the page is in sight; gives what ends that. */
export function openReadings(designId: string): () => void {
  let over = false;
  if (useBenchReadings.getState().designId !== designId)
    useBenchReadings.setState({ designId, kept: null, waiting: [], refused: null });
  const refresh = async () => {
    const asked = fetchSessions(designId).catch(() => null);
    await findWaiting(designId);
    const waits = useBenchReadings.getState().waiting.length > 0;
    await sendWaiting();
    // What was asked for before something was sent does not have it.
    const kept = await (waits ? fetchSessions(designId).catch(() => null) : asked);
    if (kept && !over && useBenchReadings.getState().designId === designId) useBenchReadings.setState({ kept });
  };
  const end = keepFresh(refresh, AGAIN_MILLISECONDS);
  return () => {
    over = true;
    end();
  };
}

/** What an earlier page, or another tab, has left to be sent. */
async function findWaiting(designId: string): Promise<void> {
  const found = await entries<string, unknown>(store()).catch(() => []);
  const left = found.flatMap(([, value]) => {
    const read = waitingSchema.safeParse(value);
    return read.success && read.data.designId === designId ? [read.data] : [];
  });
  useBenchReadings.setState(({ waiting }) => {
    const known = new Set(waiting.map(({ reading }) => reading.id));
    const more = left.filter(({ reading }) => !known.has(reading.id));
    return more.length > 0 ? { waiting: [...waiting, ...more] } : {};
  });
}

let sending: Promise<void> | null = null;

/** Sends what waits, session by session; once more where readings were taken meanwhile. */
async function sendWaiting(): Promise<void> {
  while (sending) await sending;
  sending = sendAll().finally(() => (sending = null));
  await sending;
}

async function sendAll(): Promise<void> {
  const { waiting } = useBenchReadings.getState();
  for (const designId of new Set(waiting.map((one) => one.designId))) {
    const own: Waiting[] = [];
    // A picture goes first: nobody sees an entry whose picture is not there.
    for (const one of waiting) if (one.designId === designId && (await isSent(() => sendPicture(one)))) own.push(one);
    for (const part of joined(own.map(({ session, reading }) => ({ session, readings: [reading] }))))
      await isSent(async () => {
        const had = new Set(await keepReadings(designId, part));
        useBenchReadings.setState((state) => ({
          refused: null,
          // What the server has stays on screen until it is fetched again.
          kept: state.designId === designId ? joined(state.kept ?? [], [part]) : state.kept,
          waiting: state.waiting.filter(({ reading }) => !had.has(reading.id)),
        }));
        for (const id of had) await del(id, store()).catch(() => undefined);
      });
  }
}

async function sendPicture({ designId, reading, picture }: Waiting): Promise<void> {
  if (picture && reading.pictureId) await keepPicture(designId, reading.pictureId, picture);
}

/** Whether something went through; what the server refuses for good is told. */
async function isSent(send: () => Promise<void>): Promise<boolean> {
  try {
    await send();
    return true;
  } catch (error) {
    if (error instanceof Refusal && !(error instanceof Trouble)) useBenchReadings.setState({ refused: error.message });
    return false;
  }
}
