import { hostname } from 'node:os';
import type { Way } from './entry/way';
import { turnedAway } from './guard';

const LOOPBACK: Way = { over: 'loopback', at: '127.0.0.1', from: '127.0.0.1' };
const NETWORK: Way = { over: 'network', at: '192.168.1.7', from: '192.168.1.20' };

const JSON_TYPE = { 'content-type': 'application/json' };
const asked = (method: string, headers: Record<string, string>, path = '/api/designs', way: Way = LOOPBACK) =>
  turnedAway({ method, path, headers: new Headers(headers), way })?.status ?? null;

it.each(['127.0.0.1:4180', 'localhost:4180', 'LOCALHOST', '[::1]:4180'])('%s is one of its names', (host) =>
  expect(asked('GET', { host })).toBeNull(),
);

it.each(['rebound.example', 'rebound.example:4180', '127.0.0.1.rebound.example', '10.0.0.7:4180', ''])(
  'under the name "%s" nothing is answered',
  (host) => {
    expect(asked('GET', { host })).toBe(421);
    expect(asked('POST', { host, ...JSON_TYPE })).toBe(421);
    expect(asked('GET', { host }, '/')).toBe(421);
  },
);

it.each(['192.168.1.7:4181', `${hostname().toUpperCase()}:4181`, `${hostname()}.local`])(
  'over the network %s is one of its names',
  (host) => expect(asked('GET', { host }, '/', NETWORK)).toBeNull(),
);

it.each(['127.0.0.1:4181', 'localhost', '192.168.1.8', 'rebound.example', ''])(
  'over the network "%s" is none',
  (host) => expect(asked('GET', { host }, '/', NETWORK)).toBe(421),
);

it('a write of another site’s page is turned away, whatever it says of its kind', () => {
  const host = '127.0.0.1:4180';
  expect(asked('POST', { host, ...JSON_TYPE, origin: 'http://evil.example' })).toBe(403);
  expect(asked('POST', { host, ...JSON_TYPE, origin: 'null' })).toBe(403);
  expect(asked('POST', { host, ...JSON_TYPE, 'sec-fetch-site': 'cross-site' })).toBe(403);
  expect(asked('POST', { host, ...JSON_TYPE, 'sec-fetch-site': 'same-site' })).toBe(403);
  // Another port is another origin.
  expect(asked('PUT', { host, ...JSON_TYPE, origin: 'http://127.0.0.1:5000' })).toBe(403);
  expect(asked('POST', { host, ...JSON_TYPE, origin: `http://${host}`, 'sec-fetch-site': 'same-origin' })).toBeNull();
  // A script of the user's own, which says nothing of pages.
  expect(asked('POST', { host, ...JSON_TYPE })).toBeNull();
});

it('a write that is not JSON is refused, as a form of another site would send it', () => {
  const host = 'localhost:4180';
  for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data', ''])
    expect(asked('POST', { host, 'content-type': type })).toBe(415);
  expect(asked('POST', { host })).toBe(415);
  expect(asked('PATCH', { host, 'content-type': 'Application/JSON; charset=utf-8' })).toBeNull();
  // A picture: no form sends its type, and a script of another site must ask first.
  expect(asked('PUT', { host, 'content-type': 'application/octet-stream' })).toBeNull();
});

it.each(['TRACE', 'CONNECT', 'OPTIONS', 'PROPFIND'])('%s is not answered', (method) =>
  expect(asked(method, { host: 'localhost' })).toBe(405),
);
