import { UNIT_NAMES, type Unit } from '../quantity/units';
import * as z from '../zod';
import { sentence } from '../quantity/sentence';

function shown(input: unknown): string {
  return typeof input === 'string'
    ? `the text "${input.slice(0, 40)}"`
    : (JSON.stringify(input) ?? 'missing').slice(0, 40);
}

/** An error that states what is wrong; what would be right follows after a semicolon. */
export function saying(right: string) {
  return (issue: { input?: unknown }) =>
    issue.input === undefined ? `is missing; must be ${right}` : `is ${shown(issue.input)}; must be ${right}`;
}

export function quantity(unit: Unit, example: string, least: 'above zero' | 'zero or more') {
  const right = `a number ${least}${unit ? `, in ${UNIT_NAMES.get(unit)}` : ''}, such as ${example}`;
  const number = z.number({ error: saying(right) });
  const error = saying(right);
  return (least === 'above zero' ? number.gt(0, { error }) : number.gte(0, { error })).lte(1e15, {
    error: saying(`${right}, and below 1e15`),
  });
}

export const fraction = (example: string) =>
  z
    .number({ error: saying(`a fraction between 0 and 1, such as ${example}`) })
    .gt(0, { error: saying(`a fraction between 0 and 1, such as ${example}`) })
    .lt(1, { error: saying(`a fraction between 0 and 1, such as ${example}`) });

export const choice = <const T extends readonly [string, ...string[]]>(values: T) =>
  z.enum(values, {
    error: saying(
      values.length === 1
        ? `"${values[0]}" (the only kind computed so far)`
        : `one of ${values.map((v) => `"${v}"`).join(', ')}`,
    ),
  });

/** A part of something, from none to all of it. */
export const share = (example: string) =>
  z
    .number({ error: saying(`a part from 0 to 1, such as ${example}`) })
    .gte(0, { error: saying(`a part from 0 to 1, such as ${example}`) })
    .lte(1, { error: saying(`a part from 0 to 1, such as ${example}`) });

/** A whole number from one. */
export const count = (most: number, least: 0 | 1 = 1) => {
  const error = saying(`a whole number from ${least} to ${most}`);
  return z.number({ error }).int({ error }).gte(least, { error }).lte(most, { error });
};

/** A list of at most so many, said in a word. */
export const listOf = <T extends z.ZodType>(item: T, what: string, most: number) =>
  z
    .array(item, { error: saying(`a list of ${what}`) })
    .max(most, { error: () => `has more than ${most} ${what}; must have ${most} at most` });

export const text = (most: number) =>
  z
    .string({ error: saying('a text') })
    .max(most, { error: () => `is longer than ${most} characters; must be shorter` })
    .default('');

/** The part of the drawer that values were taken from; null where they were typed. */
export const partId = z
  .uuid({ error: saying('the id of a part in the drawer, or null') })
  .nullable()
  .default(null);

/** What would be right, out of an error's message, as a sentence. */
export function formatWhatIsRight(message: string): string {
  const right = message.split('; ').pop()!;
  return `${sentence(right)}.`;
}

export const yes = z.boolean({ error: saying('true or false') });

/** The error of a union of kinds: which there are. */
export function kindOf(kinds: readonly string[]) {
  return (issue: { input?: unknown }) => {
    const kind = (issue.input as { kind?: unknown } | undefined)?.kind;
    return `${kind === undefined ? 'is missing' : `is ${shown(kind)}`}; must be one of ${kinds.map((name) => `"${name}"`).join(', ')}`;
  };
}
