import { portFrom, readOptions } from './options';

it('by itself nobody is asked, and nothing reaches it from elsewhere', () =>
  expect(readOptions([])).toEqual({ network: false, address: null, locked: false, newPassPhrase: false, help: false }));

it('each option is read', () =>
  expect(readOptions(['--network', '--address', '10.0.0.7', '--locked', '--new-pass-phrase'])).toEqual({
    network: true,
    address: '10.0.0.7',
    locked: true,
    newPassPhrase: true,
    help: false,
  }));

it.each([
  [['--netwrok'], /netwrok.*--help/],
  [['--network', '10.0.0.7'], /10\.0\.0\.7.*--help/],
  [['--network', '--address'], /--address.*--help/],
  [['--address', '10.0.0.7'], /together with/],
  [['--new-pass-phrase'], /needs --network or --locked/],
])('%j is refused with what would be right', (words, message) => expect(() => readOptions(words)).toThrow(message));

describe('a port', () => {
  afterEach(() => delete process.env.TRIED_PORT);
  it.each([
    ['', 4180],
    ['80', 80],
    ['65535', 65_535],
  ])('chosen as "%s" is %d', (chosen, port) => {
    process.env.TRIED_PORT = chosen;
    expect(portFrom('TRIED_PORT', 4180)).toBe(port);
  });
  it.each(['0', '65536', '-1', '4180.5', 'x'])('chosen as "%s" is refused', (chosen) => {
    process.env.TRIED_PORT = chosen;
    expect(() => portFrom('TRIED_PORT', 4180)).toThrow(/TRIED_PORT is .* must be/);
  });
});
