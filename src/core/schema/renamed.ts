/** Whether a value is a JSON object. */
export const isSection = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A section with fields under new names; a field that has both is left as it is, for the schema to refuse. */
export function renamed(section: unknown, names: Readonly<Record<string, string>>): unknown {
  if (!isSection(section)) return section;
  return Object.fromEntries(
    Object.entries(section).map(([name, value]) => [
      name in names && !(names[name] in section) ? names[name] : name,
      value,
    ]),
  );
}
