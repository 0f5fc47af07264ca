import { parseArgs } from 'node:util';

export type Options = {
  network: boolean;
  /** The one address to listen on for the network; null for every one of a private network. */
  address: string | null;
  locked: boolean;
  newPassPhrase: boolean;
  help: boolean;
};

export const HELP = `./start [--network [--address ADDRESS]] [--locked] [--new-pass-phrase]

  --network           answers on the local network as well, by HTTPS, to whoever knows the pass phrase
  --address ADDRESS   there at this address of the machine alone
  --locked            asks those on this machine for the pass phrase too
  --new-pass-phrase   makes another pass phrase; the one before is no good any more
  --help              this

  PORT and NETWORK_PORT choose the ports (4180 and 4181), EAGER_LADDER_DATA the folder for what is kept.
`;

function valuesOf(words: string[]) {
  try {
    return parseArgs({
      args: words,
      options: {
        network: { type: 'boolean', default: false },
        address: { type: 'string' },
        locked: { type: 'boolean', default: false },
        'new-pass-phrase': { type: 'boolean', default: false },
        help: { type: 'boolean', default: false },
      },
    }).values;
  } catch (error) {
    const [what] = (error as Error).message.split(/\. |\n/);
    throw new Error(`${what}; ./start --help tells what there is`);
  }
}

/** @throws Error that says what is wrong with them */
export function readOptions(words: string[]): Options {
  const values = valuesOf(words);
  if (values.address !== undefined && !values.network)
    throw new Error('--address is for --network; must be given together with it');
  if (values['new-pass-phrase'] && !values.network && !values.locked)
    throw new Error('--new-pass-phrase needs --network or --locked; without them nobody is asked for it');
  return {
    network: values.network,
    address: values.address ?? null,
    locked: values.locked,
    newPassPhrase: values['new-pass-phrase'],
    help: values.help,
  };
}

/** A port that the environment may choose. */
export function portFrom(name: string, usual: number): number {
  const port = Number(process.env[name] || usual);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Error(`${name} is "${process.env[name]}"; must be a whole number from 1 to 65535`);
  return port;
}
