import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { editDesign } from './edit-design';

const id = '44444444-4444-4444-8444-444444444441';
const plain = newDesign('Edited');
const fitted: Design = {
  ...plain,
  ladder: {
    ...plain.ladder,
    capacitor: { ...plain.ladder.capacitor, partId: id },
    diode: { ...plain.ladder.diode, partId: id },
  },
};

it('a value typed over one that came from the drawer leaves the part there', () => {
  const edited = editDesign(fitted, { path: '$.ladder.capacitor.farads', value: 3e-9 });
  expect(edited.ladder.capacitor).toMatchObject({ farads: 3e-9, partId: null });
  expect(edited.ladder.diode.partId).toBe(id);
});

it('a field that is no part’s leaves every part in its place', () => {
  for (const [path, value] of [
    ['$.name', 'Other'],
    ['$.ladder.stages', 5],
    ['$.ladder.strayFarads', 1e-12],
  ] as const) {
    const edited = editDesign(fitted, { path, value });
    expect([edited.ladder.capacitor.partId, edited.ladder.diode.partId]).toEqual([id, id]);
  }
});

it('a driver’s own places are known by its kind', () => {
  const driven = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) } as Design;
  const withPart = editDesign(driven, { path: '$.driver.transistorPartId', value: id });
  const edited = editDesign(withPart, { path: '$.driver.ratedVolts', value: 150 });
  expect(edited.driver).toMatchObject({ ratedVolts: 150, transistorPartId: null });
});

it('the design edited stays as it was', () => {
  const before = JSON.stringify(fitted);
  editDesign(fitted, { path: '$.ladder.diode.forwardVolts', value: 9 });
  expect(JSON.stringify(fitted)).toBe(before);
});
