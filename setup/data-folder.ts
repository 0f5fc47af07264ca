import path from 'node:path';
import { ROOT } from './build';

/** Where what the user made is kept. */
export const DATA = path.resolve(process.env.EAGER_LADDER_DATA || path.join(ROOT, '.data'));
export const DATABASE = path.join(DATA, 'postgres');
/** Copies that are made by themselves, before the database is changed as a whole. */
export const COPIES = path.join(DATA, 'copies');
/** What guards the way in: certificates and the hash of the pass phrase. */
export const ENTRY = path.join(DATA, 'entry');
