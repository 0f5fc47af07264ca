import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { mayEnter } from './entry';
import { hasPassPhrase, isPassPhrase, makePassPhrase, sessionKey } from './pass-phrase';
import { isSession, openSession, SESSION_SECONDS } from './session';
import { Tries } from './tries';
import type { Way } from './way';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-entry-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

describe('the pass phrase', () => {
  it('lets in who types it, also as a telephone writes it, and nobody else', async () => {
    expect(hasPassPhrase(folder)).toBe(false);
    expect(await isPassPhrase(folder, '')).toBe(false);
    const phrase = await makePassPhrase(folder);
    expect(phrase.split(' ')).toHaveLength(5);
    expect(await isPassPhrase(folder, phrase)).toBe(true);
    expect(await isPassPhrase(folder, ` ${phrase[0].toUpperCase()}${phrase.slice(1).replaceAll(' ', '-')} `)).toBe(
      true,
    );
    for (const wrong of ['', ' ', phrase.slice(1), phrase.split(' ').reverse().join(' '), `${phrase} ${phrase}`])
      expect(await isPassPhrase(folder, wrong)).toBe(false);
  });

  it('is kept by nothing that tells it, for its owner alone', async () => {
    const phrase = await makePassPhrase(folder);
    const file = path.join(folder, 'pass-phrase.json');
    const kept = readFileSync(file, 'utf8');
    const words = phrase.split(' ');
    for (const together of ['', ' ', '-', '","']) expect(kept).not.toContain(words.join(together));
    // What names the values is left out: "session" and "hash" are words of the list. A short word stands in a hash
    // by chance (one of 3 letters in one hash of 2,000).
    const values = kept.replaceAll(/"\w+":/g, '');
    for (const word of words.filter(({ length }) => length > 4)) expect(values).not.toContain(word);
    expect(statSync(file).mode & 0o777).toBe(0o600);
  });

  it('is no good once another has been made, nor are the sessions opened with it', async () => {
    const first = await makePassPhrase(folder);
    const session = openSession(sessionKey(folder)!);
    expect(isSession(sessionKey(folder)!, session)).toBe(true);
    const second = await makePassPhrase(folder);
    expect(second).not.toBe(first);
    expect(await isPassPhrase(folder, first)).toBe(false);
    expect(isSession(sessionKey(folder)!, session)).toBe(false);
  });

  it.each(['', '{}', '{"salt": "!"', 'null'])(
    'what is kept of it as %j lets nobody in and says what to do',
    async (kept) => {
      writeFileSync(path.join(folder, 'pass-phrase.json'), kept);
      expect(() => sessionKey(folder)).toThrow(/--new-pass-phrase/);
      await expect(isPassPhrase(folder, 'a b c d e')).rejects.toThrow(/--new-pass-phrase/);
      const phrase = await makePassPhrase(folder);
      expect(await isPassPhrase(folder, phrase)).toBe(true);
    },
  );
});

describe('a session', () => {
  const key = Buffer.alloc(32, 1);
  const now = Date.parse('2026-06-01T12:00:00Z');

  it('lasts as long as it says', () => {
    const session = openSession(key, now);
    expect(isSession(key, session, now + (SESSION_SECONDS - 1) * 1000)).toBe(true);
    expect(isSession(key, session, now + (SESSION_SECONDS + 1) * 1000)).toBe(false);
  });

  it('is unlike any other, and cannot be made or made longer without the key', () => {
    const session = openSession(key, now);
    expect(openSession(key, now)).not.toBe(session);
    const [ends, unlike, signature] = session.split('.');
    for (const forged of [
      '',
      '..',
      `${Number(ends) + 1}.${unlike}.${signature}`,
      `${ends}.${unlike}.`,
      `${ends}.${unlike}.${signature}.`,
      `${ends}.${unlike}.${signature.slice(0, -4)}AAAA`,
      openSession(Buffer.alloc(32, 2), now),
    ])
      expect(isSession(key, forged, now)).toBe(false);
  });
});

describe('wrong tries', () => {
  let now = 0;
  const wrong = (tries: Tries, times: number, source = 'here') => {
    for (let time = 0; time < times; time += 1) tries.begin(source);
  };

  it('cost nothing five times, then twice as long each, to five minutes', () => {
    const tries = new Tries(() => now);
    wrong(tries, 4);
    expect(tries.waitSeconds('here')).toBe(0);
    const waits = Array.from({ length: 10 }, () => {
      wrong(tries, 1);
      return tries.waitSeconds('here');
    });
    expect(waits).toEqual([2, 4, 8, 16, 32, 64, 128, 256, 300, 300]);
  });

  it('are over with time, and forgotten after an hour or a right one', () => {
    const tries = new Tries(() => now);
    wrong(tries, 8);
    now += 15_000;
    expect(tries.waitSeconds('here')).toBe(1);
    now += 1000;
    expect(tries.waitSeconds('here')).toBe(0);
    wrong(tries, 1);
    expect(tries.waitSeconds('here')).toBe(32);
    tries.right('here');
    expect(tries.waitSeconds('here')).toBe(0);
    wrong(tries, 8);
    now += 3_600_001;
    wrong(tries, 1);
    expect(tries.waitSeconds('here')).toBe(0);
  });

  it('are counted by where they come from, and many places do not fill the memory', () => {
    const tries = new Tries(() => now);
    wrong(tries, 6, 'there');
    expect(tries.waitSeconds('here')).toBe(0);
    for (let source = 0; source < 5000; source += 1) tries.begin(`other ${source}`);
    expect(tries.sources).toBeLessThanOrEqual(1000);
  });
});

describe('who may enter', () => {
  const LOOPBACK: Way = { over: 'loopback', at: '127.0.0.1', from: '127.0.0.1' };
  const NETWORK: Way = { over: 'network', at: '192.168.1.7', from: '192.168.1.20' };
  afterEach(() => {
    delete process.env.EAGER_LADDER_ENTRY;
    delete process.env.EAGER_LADDER_LOCKED;
  });

  it('on this machine everybody, unless it is locked', async () => {
    expect(mayEnter(LOOPBACK, '/api/designs', undefined)).toBe(true);
    process.env.EAGER_LADDER_LOCKED = '1';
    process.env.EAGER_LADDER_ENTRY = folder;
    // Nothing has been made: then nobody.
    expect(mayEnter(LOOPBACK, '/', 'x')).toBe(false);
    await makePassPhrase(folder);
    expect(mayEnter(LOOPBACK, '/', 'x')).toBe(false);
    expect(mayEnter(LOOPBACK, '/', openSession(sessionKey(folder)!))).toBe(true);
    // How the start learns that it is up.
    expect(mayEnter(LOOPBACK, '/api/health', undefined)).toBe(true);
  });

  it('over the network who has a session, and everybody to where one is opened', async () => {
    expect(mayEnter(NETWORK, '/', undefined)).toBe(false);
    process.env.EAGER_LADDER_ENTRY = folder;
    await makePassPhrase(folder);
    for (const closed of ['/', '/drawer', '/api/health', '/api/designs', '/enter/x', '/ENTER', '/api/session/x'])
      expect(mayEnter(NETWORK, closed, undefined)).toBe(false);
    for (const open of ['/enter', '/api/session']) expect(mayEnter(NETWORK, open, undefined)).toBe(true);
    expect(mayEnter(NETWORK, '/drawer', openSession(sessionKey(folder)!))).toBe(true);
  });
});
