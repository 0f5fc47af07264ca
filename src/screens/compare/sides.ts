/** One side of a comparison: a design, at one revision or as it stands. */
export type Side = { id: string; revision: number | null };

/** A side as it stands in an address: "id" or "id.12". */
export function sideIn(text: string | null): Side | null {
  const found = /^([0-9a-f-]{36})(?:\.(\d{1,9}))?$/i.exec(text ?? '');
  return found && { id: found[1], revision: found[2] === undefined ? null : Number(found[2]) };
}

const sideText = ({ id, revision }: Side): string => (revision === null ? id : `${id}.${revision}`);

/** Where two sides are compared. */
export function compareHref(one: Side | null, other: Side | null): string {
  const query = new URLSearchParams();
  if (one) query.set('one', sideText(one));
  if (other) query.set('other', sideText(other));
  return `/compare?${query.toString()}`;
}
