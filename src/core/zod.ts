/**
 * The one place zod is imported from: `import * as z from '../zod'`. Compiled
 * validators need `eval`, which the content security policy forbids, so the
 * interpreter is chosen before any schema is declared.
 */
import { config } from 'zod';

config({ jitless: true });

// Names one by one to the importer, so that a bundler can leave out what nobody uses (zod carries forty languages).
export * from 'zod';
