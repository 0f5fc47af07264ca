/**
 * The one place zod is imported from. Compiled validators need `eval`, which
 * the content security policy forbids, so the interpreter is chosen before any
 * schema is declared.
 */
import * as z from 'zod';

z.config({ jitless: true });

export { z };
